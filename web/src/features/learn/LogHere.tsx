import { Link } from "wouter";
import type { Beat, HereIn, Lie, Situation } from "../../api/client";
import { address } from "../../app/addresses";
import { useEvidenceHere, useLogHere } from "../../queries/learn";
import { Panel } from "../../ui/parts";
import { useUnits } from "../../units/context";

/** What of a situation makes water like it. */
const like = ({ water, light }: Situation) => ({
  flow_class: water.flow_class,
  temperature_c: water.temperature_c,
  light,
});

export const atLie = (lie: Lie): HereIn | null =>
  lie.situation && { place: "lie", id: lie.id, kind: lie.situation.water.kind, ...like(lie.situation) };

export const atBeat = (beat: Beat): HereIn | null => {
  const read = beat.lies.find((one) => one.situation)?.situation;
  return read ? { place: "beat", id: beat.id, kind: null, ...like(read) } : null;
};

/** The angler's own log of this place in water like today's: evidence beside the computation, never instead of it. */
export function LogHere({ place }: { place: HereIn | null }) {
  const { say } = useUnits();
  const here = useLogHere(place).data;
  if (!here) return null;
  return (
    <Panel title="Your log, in water like this">
      <p>{say(here.sentence)}</p>
      <Link
        to={address.asked(here.question)}
        className="mt-2 grid min-h-14 place-items-center rounded-xl border border-line bg-ground px-4"
      >
        Which bead did best
      </Link>
    </Panel>
  );
}

const SURE = {
  sure: "Sure",
  likely: "Likely now",
  open: "Open now",
  alone: "Alone now",
  empty: "Gone",
} as const;

/** What the log answered, as far as it is wanted beside the rig and speaks of this water: never instead of what is computed. */
export function OwnEvidence({ place }: { place: HereIn | null }) {
  const { say } = useUnits();
  const evidence = useEvidenceHere(place).data ?? [];
  if (evidence.length === 0) return null;
  return (
    <Panel title="Your own evidence">
      <ul className="space-y-2">
        {evidence.map((one) => (
          <li key={one.words}>
            <Link to={address.asked(one.question)} className="block min-h-11">
              {say(one.sentence)}{" "}
              <span className="text-soft">{`${SURE[one.certainty]}: ${say(one.words)}`}</span>
            </Link>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-soft">Asked of your log; the rigs above are computed without it.</p>
    </Panel>
  );
}
