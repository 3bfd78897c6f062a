/** What is chosen with the thumb: one of a few, any of a few. */

import { ToggleGroup } from "radix-ui";

const TOGGLES = "mt-0.5 flex flex-wrap gap-px overflow-hidden rounded-xl border border-line bg-line";

/** The keys of a group, each as tall as a wet thumb wants it. */
const Toggles = ({ options }: { options: readonly (readonly [string, string])[] }) =>
  options.map(([key, text]) => (
    <ToggleGroup.Item
      key={key}
      value={key}
      className="min-h-14 min-w-min flex-1 basis-0 bg-paper px-1.5 leading-tight data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-ground"
    >
      {text}
    </ToggleGroup.Item>
  ));

interface ChoiceProps<T extends string> {
  label: string;
  value: T | null;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  clearable?: () => void;
  /** The options say what is chosen: the label is for those who hear the screen. */
  quiet?: boolean;
  /** Under each other: names that are too long to stand side by side. */
  stacked?: boolean;
}

/** One of a few. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  clearable,
  quiet = false,
  stacked = false,
}: ChoiceProps<T>) {
  return (
    <div>
      {!quiet && <div className="text-sm text-soft">{label}</div>}
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value ?? ""}
        onValueChange={(next) => (next ? onChange(next as T) : clearable?.())}
        className={`${TOGGLES} ${stacked ? "flex-col *:basis-auto" : ""}`}
      >
        <Toggles options={options} />
      </ToggleGroup.Root>
    </div>
  );
}

interface SeveralProps<T extends string> {
  label: string;
  values: readonly T[];
  options: readonly (readonly [T, string])[];
  onChange: (values: T[]) => void;
}

/** Any of a few. */
export function Several<T extends string>({ label, values, options, onChange }: SeveralProps<T>) {
  return (
    <div>
      <div className="text-sm text-soft">{label}</div>
      <ToggleGroup.Root
        type="multiple"
        aria-label={label}
        value={[...values]}
        onValueChange={(next) => onChange(next as T[])}
        className={TOGGLES}
      >
        <Toggles options={options} />
      </ToggleGroup.Root>
    </div>
  );
}
