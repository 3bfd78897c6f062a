import { useState } from "react";
import type { Beat, Lie, ReadingIn, Situation } from "../../api/client";
import { LieTitle } from "../../app/lie";
import { useHeld } from "../../local/logbook";
import { newId } from "../../local/outbox";
import { useRoad } from "../../local/road";
import { useRigsAhead } from "../../queries/rigs";
import type { Base } from "./base";
import { HeldNote, troubleOf } from "./HeldNote";
import { ReadingForm, type Rest } from "./ReadingForm";
import { useReread } from "./reread";

const BLANK = { feeding: null, found: [], cover: [], under_line_m_s: null };

type Draft = Rest & Partial<Pick<ReadingIn, "depth_m" | "speed">>;

const asDraft = ({ lie_id: _lie, at: _at, depth_sd_m: _sd, ...rest }: ReadingIn): Draft => ({
  ...BLANK,
  ...rest,
});

interface Props {
  lie: Lie;
  beat: Beat;
  /** The water as it was read, once this device has worked that out. */
  drawn?: Situation | null;
}

/** The first reading of a lie. Two numbers are asked for; as soon as both are there it is stored. */
export function FirstReading({ lie, beat, drawn = null }: Props) {
  const held = useHeld(lie);
  const open = useRoad();
  useRigsAhead(lie.id, drawn);
  const [fresh] = useState(newId);
  const [typed, setDraft] = useState<Draft | null>(null);
  const draft: Draft = typed ?? (held ? asDraft(held.body) : { ...BLANK, ...beat.carried });
  const store = useReread(lie, () => ({ id: fresh, body: { lie_id: lie.id } as Base }));
  const change = (made: Partial<ReadingIn>) => {
    const next = { ...draft, ...made };
    setDraft(next);
    const { depth_m, speed, ...rest } = next;
    if (depth_m !== undefined && speed !== undefined)
      store.mutate({ ...rest, depth_m, speed, lie_id: lie.id });
  };
  const { depth_m, speed, ...rest } = draft;
  return (
    <div className="mx-auto max-w-2xl space-y-3">
      <div>
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl font-bold">How deep, and how fast at the top?</h1>
        <p className="mt-1 text-soft">
          A guess by eye will do: its error is carried along. The rest is carried over from {beat.name}.
        </p>
        {lie.notes && <p className="mt-1 text-soft">{lie.notes}</p>}
      </div>
      {held && (!open || held.refused) && <HeldNote held={held} drawn={null} />}
      <ReadingForm
        title="First reading"
        depth={depth_m ?? null}
        speed={speed?.how === "typed" ? speed.surface_speed_m_s : null}
        timed={speed?.how === "bubbles" ? { speed_m_s: null, error_m_s: null } : null}
        rest={rest}
        onChange={change}
        error={troubleOf(store.error, held)}
      />
    </div>
  );
}
