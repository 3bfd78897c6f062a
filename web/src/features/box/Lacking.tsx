/** What the box lacks for the lies of this river as they are now: one lie after the other, to be stopped at any time. */
import { useRef, useState } from "react";
import { api, type Box, type Missing, unwrap } from "../../api/client";
import { useBeats } from "../../queries/places";
import { Button, Panel, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";

interface Found extends Missing {
  lies: string[];
}

const keyOf = (one: Missing) => `${one.fly.form} ${one.fly.hook} ${one.fly.bead_mm ?? 0}`;

export function Lacking({ box }: { box: Box }) {
  const { bead: beadOf } = useUnits();
  const beats = useBeats();
  const [found, setFound] = useState<Found[] | null>(null);
  const [done, setDone] = useState(0);
  const [error, setError] = useState<unknown>(null);
  const running = useRef(false);
  const [busy, setBusy] = useState(false);
  const lies = beats.data?.flatMap((beat) => beat.lies.filter((lie) => lie.situation)) ?? [];
  const look = async () => {
    running.current = true;
    setBusy(true);
    setError(null);
    const so_far = new Map<string, Found>();
    try {
      for (const [k, lie] of lies.entries()) {
        if (!running.current || !lie.situation) break;
        for (const one of await unwrap(api.POST("/api/box/missing", { body: lie.situation }))) {
          const there = so_far.get(keyOf(one)) ?? { ...one, lies: [] };
          so_far.set(keyOf(one), {
            ...there,
            gain: Math.max(there.gain, one.gain),
            lies: [...there.lies, lie.name],
          });
        }
        setDone(k + 1);
        setFound([...so_far.values()].sort((a, b) => b.lies.length - a.lies.length || b.gain - a.gain));
      }
    } catch (trouble) {
      setError(trouble);
    } finally {
      running.current = false;
      setBusy(false);
    }
  };
  return (
    <Panel title="What it lacks here">
      {found && (
        <ul className="mb-2 space-y-2">
          {found.map((one) => (
            <li key={keyOf(one)}>
              <span className="font-semibold">{one.fly.form}</span>, size {one.fly.hook}
              {`, ${beadOf(one.fly.bead_mm ?? null)}`}
              <span className="block text-sm text-soft">
                better at {one.lies.join(", ")}: up to {one.gain.toFixed(2)} in score
              </span>
            </li>
          ))}
          {found.length === 0 && !busy && <li>Nothing: it does as well here as a full one.</li>}
        </ul>
      )}
      {error !== null && <Trouble error={error} />}
      {busy ? (
        <>
          <progress
            className="w-full accent-(--mark)"
            value={done}
            max={lies.length}
            aria-label="Lies looked at"
          />
          <Button
            className="w-full"
            onClick={() => {
              running.current = false;
            }}
          >
            Stop, {done} of {lies.length} lies
          </Button>
        </>
      ) : (
        <Button className="w-full" disabled={lies.length === 0 || box.items.length === 0} onClick={look}>
          Look at all {lies.length} lies as they are now
        </Button>
      )}
    </Panel>
  );
}
