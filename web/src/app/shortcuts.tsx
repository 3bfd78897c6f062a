/** Keys for those with a keyboard. Every key does what a button in sight does, and the list is under `?`. */
import { useEffect, useRef, useState } from "react";
import { Sheet } from "../ui/sheet";

export const SHORTCUTS: readonly (readonly [string, string])[] = [
  ["1 2 3 4 5", "Read, Rig, Drift, Log, Learn"],
  ["[ ]", "the lie below, the lie above"],
  ["p", "play or hold the drift"],
  ["c t h m f l", "log: clean, tick, hung up, missed, fish, lost fly"],
  ["u", "log: undo the last tap"],
  ["Space", "practice: cast, strike"],
  ["?", "this list"],
];

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || target.matches("input, textarea, select, [role=slider]"));

/** Call the action of a key that is pressed on its own, unless somebody is typing or a sheet is open. */
export function useKeys(actions: Record<string, (() => void) | undefined>): void {
  const latest = useRef(actions);
  latest.current = actions;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || typing(event.target)) return;
      if (document.querySelector("[role=dialog]")) return;
      const action = latest.current[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}

/** The button that shows the keys, and the keys. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useKeys({ "?": () => setOpen(true) });
  return (
    <>
      <button
        type="button"
        className="hidden size-12 place-items-center rounded-full text-lg font-semibold hover:bg-paper lg:grid"
        aria-label="keyboard shortcuts"
        onClick={() => setOpen(true)}
      >
        ?
      </button>
      <Sheet title="Keys" open={open} onClose={() => setOpen(false)}>
        <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-5 gap-y-2">
          {SHORTCUTS.map(([keys, what]) => (
            <div key={keys} className="contents">
              <dt className="flex gap-1">
                {keys.split(" ").map((key) => (
                  <kbd
                    key={key}
                    className="rounded-md border border-line bg-paper px-2 font-sans font-semibold"
                  >
                    {key}
                  </kbd>
                ))}
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Sheet>
    </>
  );
}
