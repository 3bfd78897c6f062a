import { useState } from "react";
import type { Beat, Lie, ReadingIn } from "../../api/client";
import { useStoreReading } from "../../api/hooks";
import { LieTitle } from "../../app/lie";
import { newId } from "../../local/outbox";
import { ReadingForm, type Rest } from "./ReadingForm";

const BLANK = { feeding: null, found: [] };

/** The first reading of a lie. Two numbers are asked for; as soon as both are there it is stored. */
export function FirstReading({ lie, beat }: { lie: Lie; beat: Beat }) {
  const store = useStoreReading();
  const [id] = useState(newId);
  const [draft, setDraft] = useState<Rest & Partial<Pick<ReadingIn, "depth_m" | "speed">>>({
    ...BLANK,
    ...beat.carried,
  });
  const change = (made: Partial<ReadingIn>) => {
    const next = { ...draft, ...made };
    setDraft(next);
    const { depth_m, speed, ...rest } = next;
    if (depth_m !== undefined && speed !== undefined)
      store.mutate({
        id,
        body: { ...rest, depth_m, speed, lie_id: lie.id, at: new Date().toISOString() },
      });
  };
  const { depth_m, speed, ...rest } = draft;
  return (
    <div className="mx-auto max-w-2xl space-y-3">
      <div>
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl font-bold">How deep, and how fast at the top?</h1>
        <p className="mt-1 text-soft">
          A guess by eye will do: its error is carried along. {lie.notes} The rest is carried over from{" "}
          {beat.name}.
        </p>
      </div>
      <ReadingForm
        title="First reading"
        depth={depth_m ?? null}
        speed={speed?.how === "typed" ? speed.surface_speed_m_s : null}
        timed={speed?.how === "bubbles" ? { speed_m_s: null, error_m_s: null } : null}
        rest={rest}
        onChange={change}
        error={store.error}
      />
    </div>
  );
}
