import { useId } from "react";
import type { Askable, DimensionName, Question } from "../../api/client";
import { useParts } from "../../queries/learn";
import { useUnits } from "../../units/context";
import { PER } from "./rates";

const MEASURES = { takes: "takes", fish: "fish", hung: "hang-ups" } as const;
const MOST_NARROWED = 6;

const CHIP =
  "min-h-14 min-w-0 max-w-full rounded-xl border border-line bg-paper px-3 text-base font-semibold text-ink";

/** The question as a sentence, every part of it to be picked. */
export function Asking({
  question,
  askable,
  onAsk,
}: {
  question: Question;
  askable: Askable;
  onAsk: (question: Question) => void;
}) {
  const words = new Map(askable.dimensions.map((one) => [one.name, one.words]));
  const ofFish = (one: Question) =>
    askable.dimensions.some(
      (of) => of.of_fish && [one.by, ...one.only.map((only) => only.dimension)].includes(of.name),
    );
  // what only a fish can say is asked of fish
  const ask = (one: Question) => onAsk(ofFish(one) ? { ...one, measure: "fish" } : one);
  const measures = Object.entries(MEASURES).filter(([key]) => key === "fish" || !ofFish(question));
  const left = askable.dimensions.filter((one) => !question.only.some((only) => only.dimension === one.name));
  return (
    <fieldset className="flex min-w-0 flex-wrap items-center gap-2">
      <legend className="sr-only">The question</legend>
      How many
      <Pick
        label="of what"
        value={question.measure}
        options={measures}
        onPick={(measure) => ask({ ...question, measure: measure as Question["measure"] })}
      />
      <Pick
        label="for what effort"
        value={question.per}
        options={Object.entries(PER)}
        onPick={(per) => ask({ ...question, per: per as Question["per"] })}
      />
      by
      <Pick
        label="by what"
        value={question.by}
        options={askable.dimensions.map((one) => [one.name, one.words])}
        onPick={(by) =>
          ask({
            ...question,
            by: by as DimensionName,
            only: question.only.filter((one) => one.dimension !== by),
          })
        }
      />
      {question.only.map((only) => (
        <Narrowed
          key={only.dimension}
          dimension={only.dimension}
          words={words.get(only.dimension) ?? only.dimension}
          part={only.part}
          onPick={(part) =>
            ask({
              ...question,
              only: question.only.map((one) => (one.dimension === only.dimension ? { ...one, part } : one)),
            })
          }
          onDrop={() =>
            ask({ ...question, only: question.only.filter((one) => one.dimension !== only.dimension) })
          }
        />
      ))}
      {question.only.length < MOST_NARROWED && (
        <NarrowTo
          left={left.filter((one) => one.name !== question.by)}
          onPick={(dimension, part) => ask({ ...question, only: [...question.only, { dimension, part }] })}
        />
      )}
    </fieldset>
  );
}

function Pick({
  label,
  value,
  options,
  onPick,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onPick: (value: string) => void;
}) {
  return (
    <select
      aria-label={label}
      className={CHIP}
      value={value}
      onChange={(event) => onPick(event.target.value)}
    >
      {options.map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  );
}

function Narrowed({
  dimension,
  words,
  part,
  onPick,
  onDrop,
}: {
  dimension: DimensionName;
  words: string;
  part: string;
  onPick: (part: string) => void;
  onDrop: () => void;
}) {
  const { say } = useUnits();
  const parts = useParts(dimension).data ?? [];
  const known = parts.some((one) => one.key === part);
  return (
    <span className="flex min-w-0 max-w-full items-center rounded-xl border border-line bg-paper">
      <select
        aria-label={`only ${words}`}
        className="min-h-14 min-w-0 rounded-xl bg-paper px-3 text-base font-semibold text-ink"
        value={part}
        onChange={(event) => onPick(event.target.value)}
      >
        {!known && <option value={part}>{`${words}: …`}</option>}
        {parts.map((one) => (
          <option key={one.key} value={one.key}>{`${words}: ${say(one.label)}`}</option>
        ))}
      </select>
      <button
        type="button"
        className="grid min-h-14 min-w-12 place-items-center rounded-xl"
        aria-label={`all ${words}`}
        onClick={onDrop}
      >
        ×
      </button>
    </span>
  );
}

/** The first part of what is picked is taken: it can be changed where it then stands. */
function NarrowTo({
  left,
  onPick,
}: {
  left: Askable["dimensions"];
  onPick: (dimension: DimensionName, part: string) => void;
}) {
  const id = useId();
  return (
    <select
      id={id}
      aria-label="only some drifts"
      className={`${CHIP} font-normal`}
      value=""
      onChange={(event) => onPick(event.target.value as DimensionName, "")}
    >
      <option value="">of all drifts</option>
      {left.map((one) => (
        <option key={one.name} value={one.name}>{`only one ${one.words}`}</option>
      ))}
    </select>
  );
}
