import { useQueryClient } from "@tanstack/react-query";
import { Check, Download } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import type { Beat } from "../../api/client";
import { useKeptAngler } from "../../local/angler";
import { type Room, room } from "../../local/kept";
import { type Progress, packBeat, type Readiness, readiness } from "../../local/pack";
import { Button, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { day, weekday } from "../../units/units";

const MEGA = 1e6;
const LITTLE_ROOM = 30 * MEGA;

/** One tap packs the beat for a river without signal, and says whether it is ready. */
export function TakeAlong({ beat }: { beat: Beat }) {
  const client = useQueryClient();
  const { clock } = useUnits();
  const angler = useKeptAngler()?.id;
  const [progress, setProgress] = useState<Progress | null>(null);
  const [state, setState] = useState<Readiness | null>(null);
  const [space, setSpace] = useState<Room | null>(null);
  const [error, setError] = useState<unknown>(null);
  const look = useCallback(async () => {
    if (!angler) return;
    setState(await readiness(angler, beat));
    setSpace(await room());
  }, [angler, beat]);
  useEffect(() => {
    look().catch(setError);
    navigator.serviceWorker?.addEventListener("controllerchange", look);
    return () => navigator.serviceWorker?.removeEventListener("controllerchange", look);
  }, [look]);
  const pack = async () => {
    if (!angler) return;
    setError(null);
    try {
      await packBeat(client, angler, beat.id, setProgress);
    } catch (problem) {
      setError(
        isFull(problem)
          ? new Error("This device has no room left for the beat. Free some space and tap again.")
          : problem,
      );
    }
    setProgress(null);
    await look();
  };
  const size = (bytes: number) => `${(bytes / MEGA).toFixed(1)} MB`;
  return (
    <section aria-label="Take it along" className="rounded-2xl bg-paper p-4">
      <h2 className="flex items-center gap-2 text-lg font-semibold">
        {state?.ready && <Check aria-hidden size={20} />}
        {state?.ready ? "Ready for the river" : "No signal at the river?"}
      </h2>
      {state && (
        <p className="text-soft">
          {state.at !== null && `Packed ${dayOf(state.at)} ${clock(state.at)}, ${size(state.bytes)}. `}
          {state.lacks.length > 0 && state.at !== null && `Missing: ${state.lacks.join("; ")}. `}
          {state.at === null &&
            "Packs every lie here with its rigs, the box, the rules and the coach, so that all of it works without."}
        </p>
      )}
      {progress && (
        <div
          role="progressbar"
          aria-label={`Packing ${progress.what}`}
          aria-valuenow={Math.round(100 * progress.share)}
          className="mt-2 h-8 overflow-hidden rounded-lg border border-line"
        >
          <div className="h-full bg-water-2" style={{ width: `${100 * progress.share}%` }} />
        </div>
      )}
      {progress && (
        <p role="status" className="text-sm text-soft">
          {progress.what} · {size(progress.bytes)}
        </p>
      )}
      {error !== null && <Trouble error={error} />}
      {space && state?.at != null && !space.lasting && (
        <p className="text-sm text-soft">
          This browser may throw it away when the device is short of room: keep the app on the home screen.
        </p>
      )}
      {space?.left != null && space.left < LITTLE_ROOM && (
        <p className="text-sm font-semibold text-caution">Only {size(space.left)} of room are left here.</p>
      )}
      <Button
        look={state?.ready ? "plain" : "main"}
        className="mt-2 flex w-full items-center justify-center gap-2"
        disabled={progress !== null}
        onClick={pack}
      >
        <Download aria-hidden size={20} />
        {state?.at == null ? "Take it along" : "Pack it again"}
      </Button>
    </section>
  );
}

/** A store says that it is full itself, or wraps the browser's word for it. */
const isFull = (problem: unknown): boolean => {
  const { name, inner } = (problem ?? {}) as { name?: string; inner?: { name?: string } };
  return [name, inner?.name].includes("QuotaExceededError");
};

const dayOf = (at: number): string =>
  new Date(at).toDateString() === new Date().toDateString() ? "today" : `${weekday(at)} ${day(at)}`;
