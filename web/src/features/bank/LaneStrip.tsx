import { ChevronDown, ChevronLeft, ChevronRight, ChevronUp } from "lucide-react";
import { type PointerEvent as Pressed, useRef } from "react";
import * as bounds from "../../api/bounds";
import { laneName, type Spot, stanceName } from "./spots";

const LANES = bounds.DriftLogIn.lane.max;
const STANCES = bounds.DriftLogIn.stance.max;
/** A thumb that moves this far has swiped, not tapped. */
const SWIPE_PX = 36;

interface Props {
  spot: Spot;
  /** Drifts so far in this lane from this stance. */
  drifts: number;
  /** In how many lanes the lie is fished, and a lane's share of its drifts; undefined where that is not known. */
  work: { lanes: number; drifts_a_lane: number } | undefined;
  onMove: (to: Spot) => void;
  /** What is known of the bottom, lane by lane. */
  onBottom: () => void;
}

const clamp = (value: number, most: number) => Math.min(most, Math.max(1, value));

/** Which lane is fished and from which stance: swipe across for the lane and up for the stance, or the buttons. */
export function LaneStrip({ spot, drifts, work, onMove, onBottom }: Props) {
  const move = (lanes: number, stances: number) =>
    onMove({ lane: clamp(spot.lane + lanes, LANES), stance: clamp(spot.stance + stances, STANCES) });
  const lane = laneName(spot.lane, work?.lanes);
  const share = work?.drifts_a_lane;
  const so = drifts === 1 ? "1 drift" : `${drifts} drifts`;
  const told = !share ? so : drifts < share ? `${drifts} of ${share}` : `had its ${share}`;
  const swiped = useRef(false); // a swipe across the middle is no tap on it
  // a swipe may end beside the strip: it is followed on the window, and the buttons keep their clicks
  const press = (from: Pressed) => {
    const ended = new AbortController();
    swiped.current = false;
    const lift = (to: PointerEvent) => {
      ended.abort();
      const [dx, dy] = [to.clientX - from.clientX, to.clientY - from.clientY];
      if (Math.max(Math.abs(dx), Math.abs(dy)) < SWIPE_PX) return;
      swiped.current = true;
      navigator.vibrate?.(10);
      if (Math.abs(dx) > Math.abs(dy)) move(Math.sign(dx), 0);
      else move(0, -Math.sign(dy));
    };
    addEventListener("pointerup", lift, { signal: ended.signal });
    addEventListener("pointercancel", () => ended.abort(), { signal: ended.signal });
  };
  return (
    <fieldset
      aria-label="Lane and stance"
      className="flex min-h-14 short:min-h-12 w-full min-w-0 touch-none items-stretch overflow-hidden rounded-xl border border-line bg-paper select-none"
      onPointerDown={press}
    >
      <Step label="nearer lane" onClick={() => move(-1, 0)} off={spot.lane <= 1}>
        <ChevronLeft aria-hidden />
      </Step>
      <Step label="further lane" onClick={() => move(1, 0)} off={spot.lane >= LANES}>
        <ChevronRight aria-hidden />
      </Step>
      <button
        type="button"
        className="min-w-0 grow py-1 text-left leading-tight short:py-0"
        aria-live="polite"
        onClick={() => swiped.current || onBottom()}
      >
        <b className="block">{`${lane.charAt(0).toUpperCase()}${lane.slice(1)}`}</b>
        <span className="block text-sm">{stanceName(spot.stance)}</span>
        <span className="block text-sm text-soft underline decoration-line underline-offset-4">
          {`${told} · bottom`}
        </span>
      </button>
      <Step label="stance downstream" onClick={() => move(0, -1)} off={spot.stance <= 1}>
        <ChevronDown aria-hidden />
      </Step>
      <Step label="stance upstream" onClick={() => move(0, 1)} off={spot.stance >= STANCES}>
        <ChevronUp aria-hidden />
      </Step>
    </fieldset>
  );
}

function Step({
  label,
  off,
  onClick,
  children,
}: {
  label: string;
  off: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={off}
      className="grid min-h-14 short:min-h-12 w-[56px] shrink-0 max-[359px]:w-12 place-items-center disabled:opacity-35"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
