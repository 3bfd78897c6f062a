import type { Beat } from "../../api/client";

const WORDS = [
  ["had fish", "fish"],
  ["a big one", "big"],
  ["blank", "blank"],
  ["low", "low"],
  ["high", "high"],
  ["dusk", "dusk"],
  ["euro", "euro"],
  ["indicator", "indicator"],
  ["dry-dropper", "dropper"],
] as const;

/** One word of a name that tells it from others: the last, which is mostly what it is called by. */
const wordOf = (name: string): string => name.toLowerCase().split(/\s+/).at(-1) ?? name;

/** What an outing is often looked for by: each adds its word to what is asked, or takes it away. */
export function Facets({
  asked,
  onAsk,
  beats,
}: {
  asked: string;
  onAsk: (asked: string) => void;
  beats: readonly Beat[];
}) {
  const words = asked.toLowerCase().split(/\s+/).filter(Boolean);
  const chips: (readonly [string, string])[] = [
    ...WORDS,
    ...beats.map((beat) => [beat.name, wordOf(beat.name)] as const),
  ];
  return (
    <details className="mb-2" open={words.length > 0}>
      <summary className="min-h-11 cursor-pointer py-2 underline underline-offset-4">Narrow it</summary>
      <div className="flex flex-wrap gap-2">
        {chips.map(([name, word]) => {
          const on = words.includes(word);
          return (
            <button
              key={name}
              type="button"
              aria-pressed={on}
              className={`min-h-11 rounded-full border px-4 ${on ? "border-ink bg-ink font-semibold text-ground" : "border-line bg-paper"}`}
              onClick={() => onAsk((on ? words.filter((one) => one !== word) : [...words, word]).join(" "))}
            >
              {name}
            </button>
          );
        })}
      </div>
    </details>
  );
}
