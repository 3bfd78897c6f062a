import { Popover } from "radix-ui";
import { useState } from "react";
import type { Why as WhyText } from "../api/client";
import { useUnits } from "../units/context";
import { useBack } from "./back";

interface FigureProps {
  label: string;
  value: string;
  why: WhyText | undefined;
  tone?: "signal" | undefined;
}

/** A computed number; tapping it says what went in, how it was made, where from, and what would change it. */
export function Figure({ label, value, why, tone }: FigureProps) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="min-h-14 rounded-lg px-2 py-1 text-left hover:bg-paper" disabled={!why}>
        <span className="block text-sm leading-tight text-soft">{label}</span>
        <span
          className={`text-xl font-semibold underline decoration-line decoration-dotted underline-offset-4 ${tone === "signal" ? "text-signal" : ""}`}
        >
          {value}
        </span>
      </Popover.Trigger>
      {why && (
        <Popover.Portal>
          <Popover.Content
            collisionPadding={12}
            sideOffset={6}
            className="z-30 max-w-sm rounded-xl border border-ink bg-paper p-4 text-[0.95rem] text-ink shadow-xl"
          >
            <Said why={why} close={() => setOpen(false)} />
            <Popover.Arrow className="fill-ink" />
          </Popover.Content>
        </Popover.Portal>
      )}
    </Popover.Root>
  );
}

function Said({ why, close }: { why: WhyText; close: () => void }) {
  const { say } = useUnits();
  useBack(close);
  return (
    <>
      <h3 className="font-semibold">{why.title}</h3>
      <ul className="mt-1 list-inside list-disc text-soft">
        {why.inputs.map((input) => (
          <li key={input}>{say(input)}</li>
        ))}
      </ul>
      <p className="mt-2">{say(why.how)}</p>
      <p className="mt-2">
        <b>Would change it:</b> {say(why.change)}
      </p>
      <p className="mt-2 text-sm text-soft">{say(why.source)}</p>
    </>
  );
}
