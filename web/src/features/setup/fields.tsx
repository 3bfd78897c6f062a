/** Words typed at home, with what was wrong said beneath; what was typed stays. */
import { useId } from "react";
import { plainly, Refused } from "../../api/client";
import { Trouble } from "../../ui/parts";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  rows?: number;
  type?: "text" | "email" | "password";
  /** What a password keeper may fill in. */
  complete?: string;
}

export function TextField({ label, value, onChange, error, rows, type = "text", complete = "off" }: Props) {
  const id = useId();
  const common = {
    id,
    value,
    "aria-invalid": error !== undefined,
    "aria-describedby": error ? `${id}-error` : undefined,
    className: "mt-0.5 min-h-14 w-full rounded-xl border border-line bg-paper px-3 py-2 text-lg",
  };
  return (
    <div>
      <label htmlFor={id} className="block text-sm text-soft">
        {label}
      </label>
      {rows ? (
        <textarea {...common} rows={rows} onChange={(event) => onChange(event.target.value)} />
      ) : (
        <input
          {...common}
          type={type}
          autoComplete={complete}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-sm font-semibold text-stop">
          {error}
        </p>
      )}
    </div>
  );
}

/** The fault of a field, said plainly. */
export const faultOf = (error: unknown, field: string): string | undefined => {
  const fault = error instanceof Refused ? error.faults.find((one) => one.field === field) : undefined;
  return fault && plainly(fault);
};

/** What is wrong beside the fields. */
export function Rest({ error, fields }: { error: unknown; fields: readonly string[] }) {
  if (error === null) return null;
  if (error instanceof Refused && error.faults.every((fault) => fields.includes(fault.field ?? "")))
    return null;
  return <Trouble error={error} />;
}

/** A day of the year, kept as month and day; the year that the picker wants is of no matter. */
export function DayField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | null;
  onChange: (value: string | null) => void;
}) {
  const id = useId();
  const year = new Date().getFullYear();
  return (
    <div>
      <label htmlFor={id} className="block text-sm text-soft">
        {label}
      </label>
      <input
        id={id}
        type="date"
        value={value === null ? "" : `${year}-${value}`}
        onChange={(event) => onChange(event.target.value ? event.target.value.slice(5) : null)}
        className="mt-0.5 min-h-14 w-full rounded-xl border border-line bg-paper px-3 text-lg"
      />
    </div>
  );
}
