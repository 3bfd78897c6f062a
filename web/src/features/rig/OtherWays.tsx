/** What else the core says of a lie: other ways to fish it, and what to give up where nothing can be advised. */
import { Link } from "wouter";
import type { Advice, DrySetup } from "../../api/client";
import { address } from "../../app/addresses";
import { Button, Panel } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { Reasons } from "./RigFacts";

/** The casts that the place asks for by name. */
export function CastsHere({ advice }: { advice: Advice }) {
  const { say } = useUnits();
  const casts = advice.casts ?? []; // what an older app kept has none
  if (casts.length === 0) return null;
  return (
    <Panel title="How to cast here">
      <ul className="space-y-2">
        {casts.map((one) => (
          <li key={one.name}>
            <Link
              to={address.part("casts")}
              className="inline-block min-h-11 py-2 font-semibold underline underline-offset-4"
            >
              {one.title}
            </Link>
            : {say(one.why)}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

export function OtherWays({ advice }: { advice: Advice }) {
  const { say } = useUnits();
  if (advice.presentations.length === 0) return null;
  return (
    <Panel title="Other ways here">
      <ul className="space-y-3">
        {advice.presentations.map((one) => (
          <li key={one.name}>
            <p className="font-semibold">{one.name}</p>
            <p>{say(one.how)}</p>
            <p className="text-sm text-soft">{say(one.why)}</p>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** The single dry, where fish are to be had on the surface: nothing of it sinks, so there is nothing to set. */
export function DryAlone({
  advice,
  tied,
  onTie,
}: {
  advice: Advice;
  /** Whether it is on the rod. */
  tied: boolean;
  onTie: (setup: DrySetup) => void;
}) {
  const dry = advice.single_dry;
  if (!dry) return null;
  const best = advice.ranked[0];
  return (
    <Panel title={best && dry.score > best.score ? "First of all: a single dry" : "Or a single dry"}>
      <p className="font-semibold">
        {dry.setup.float} on {dry.setup.tippet_x}X, no nymph
      </p>
      <Reasons reasons={dry.reasons} of=" a single dry" />
      <Button className="mt-3 w-full" disabled={tied} onClick={() => onTie(dry.setup)}>
        {tied ? "It is on the rod" : "Tie it on alone"}
      </Button>
    </Panel>
  );
}

export function Relax({ advice }: { advice: Advice }) {
  const { say } = useUnits();
  if (advice.relax.length === 0) return null;
  return (
    <Panel title="What would help">
      <ul className="list-inside list-disc space-y-1">
        {advice.relax.map((one) => (
          <li key={one}>{say(one)}</li>
        ))}
      </ul>
    </Panel>
  );
}
