/** What every screen is made of: large, plain, usable with a wet glove. Who is not signed in waits for no more than this. */

import { type ButtonHTMLAttributes, type ReactNode, useEffect, useId, useState } from "react";
import type { Caution } from "../api/client";
import { useUnits } from "../units/context";
import { fromShown, parse, scaleOf, toShown, type Unit } from "../units/units";
import { useOnline } from "./online";

const STYLES = {
  main: "bg-signal-fill text-signal-ink font-semibold",
  plain: "bg-paper border border-line text-ink",
  quiet: "text-ink underline underline-offset-4 decoration-line hover:decoration-ink",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof STYLES }) {
  return (
    <button
      type="button"
      className={`min-h-14 rounded-xl disabled:opacity-45 ${/\bpx-/.test(className) ? "" : "px-4"} ${STYLES[look]} ${className}`}
      {...rest}
    />
  );
}

/** A sentence of the core in the angler's units. */
export function Say({ text }: { text: string }) {
  return <>{useUnits().say(text)}</>;
}

interface NumberFieldProps {
  label: string;
  unit: Unit;
  /** Null: not known yet. */
  value: number | null;
  onCommit: (value: number) => void;
  error?: string | undefined;
}

/** A number typed in the angler's units. It commits on leaving or Enter; what cannot be a number stays, with a word on why. */
export function NumberField({ label, unit, value, onCommit, error }: NumberFieldProps) {
  const { system } = useUnits();
  const scale = scaleOf(unit, system);
  const shown = value === null ? "" : toShown(value, unit, system).toFixed(scale.places);
  const [draft, setDraft] = useState(shown);
  const [unreadable, setUnreadable] = useState(false);
  const id = useId();
  useEffect(() => setDraft(shown), [shown]);
  const commit = () => {
    if (draft === shown && !error) return setUnreadable(false);
    const number = parse(draft, unit, system);
    setUnreadable(number === null);
    if (number !== null) onCommit(number);
  };
  const step = (direction: 1 | -1) => {
    const now = parse(draft, unit, system) ?? value ?? fromShown(0, unit, system);
    const next = Math.max(0, toShown(now, unit, system) + direction * scale.step);
    setUnreadable(false);
    onCommit(fromShown(Number(next.toFixed(scale.places)), unit, system));
  };
  const message = unreadable
    ? `“${draft}” is not a number. Write it like ${shown || (1).toFixed(scale.places)}.`
    : error;
  return (
    <div>
      <label htmlFor={id} className="block text-sm text-soft">
        {label}
      </label>
      <div className="mt-0.5 flex items-stretch overflow-hidden rounded-xl border border-line bg-paper focus-within:border-ink">
        <button
          type="button"
          aria-label={`less ${label}`}
          className="w-[56px] shrink-0 text-2xl"
          onClick={() => step(-1)}
        >
          −
        </button>
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={message !== undefined}
          aria-describedby={message ? `${id}-error` : undefined}
          className="h-14 w-full min-w-0 bg-transparent text-center text-xl font-semibold"
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === "Enter" && commit()}
        />
        <span className="self-center pr-1 text-sm text-soft">{scale.label}</span>
        <button
          type="button"
          aria-label={`more ${label}`}
          className="w-[56px] shrink-0 text-2xl"
          onClick={() => step(1)}
        >
          +
        </button>
      </div>
      {message && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-sm font-semibold text-stop">
          {message}
        </p>
      )}
    </div>
  );
}

/** What is wrong, and what to do; never a bare code. */
export function Trouble({ error, retry }: { error: unknown; retry?: () => void }) {
  const message =
    error instanceof TypeError
      ? "No answer from the service. What you logged is kept on this device."
      : error instanceof Error
        ? error.message
        : "Something went wrong.";
  return (
    <div role="alert" className="rounded-xl border-2 border-stop bg-paper p-4">
      <p className="font-semibold text-stop">{message}</p>
      {retry && (
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}

/** What is not there yet. Without signal it is not on its way, but for what this device works out itself, `here`. */
export function Working({ what, here = false }: { what: string; here?: boolean }) {
  const online = useOnline() || here;
  return (
    <p role="status" className="p-4 text-soft">
      {online
        ? `${what}…`
        : `${what} needs signal. What was worked out before is kept; logging goes on without.`}
    </p>
  );
}

/** Cautions, gravest first; the last is always that local rules come first. */
export function Cautions({ cautions }: { cautions: readonly Caution[] }) {
  const { say } = useUnits();
  const notes = cautions.filter((one) => one.level === "note");
  return (
    <aside aria-label="Cautions" className="space-y-1">
      {cautions
        .filter((one) => one.level !== "note")
        .map(({ level, code, text }) => (
          <p
            key={code}
            className={`rounded-lg border-l-4 bg-caution-ground px-3 py-2 font-semibold ${level === "stop" ? "border-stop text-stop" : "border-caution text-caution"}`}
          >
            {say(text)}
          </p>
        ))}
      <p className="px-1 text-sm text-soft">{notes.map((one) => say(one.text)).join(" ")}</p>
    </aside>
  );
}

export function Panel({ title, children }: { title?: string; children: ReactNode }) {
  return (
    <section className="rounded-2xl bg-paper p-4">
      {title && <h2 className="mb-2 text-lg font-semibold">{title}</h2>}
      {children}
    </section>
  );
}
