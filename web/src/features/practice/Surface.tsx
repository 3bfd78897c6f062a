import { useEffect, useRef, useState } from "react";
import type { Shown } from "../../api/client";
import { useKeys } from "../../app/shortcuts";
import { useWidth } from "../../draw/size";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";

const HIGH = 210;
const MIDDLE = 108;
const BUBBLES = 34;
const STEP_S = 0.4;
const SAID_S = 1.6;
const KNOCK_S = 0.35;
const KNOCK_MS = 40;

const PACES = [
  ["1", "real time"],
  ["2", "2 ×"],
  ["4", "4 ×"],
] as const;

const calm = () => matchMedia("(prefers-reduced-motion: reduce)").matches;

/** A number from 0 to 1 that is always the same for its place: where bubbles lie. */
const scattered = (k: number) => (Math.sin(k * 127.1) * 43758.5453) % 1;

/** A drift from above the water, as it goes by; nothing under it is shown. Where motion is unwanted it goes step by step. */
export function Surface({
  seen,
  up,
  reach,
  tip,
  onEnd,
}: {
  seen: Shown;
  /** How far above the fish it landed, and how near a fish a fly must pass, m. */
  up: number;
  reach: number;
  /** A tight line: its sighter hangs over the water. */
  tip: boolean;
  /** It was struck at a time, or lifted off at its end. */
  onEnd: (strike: number | null) => void;
}) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const [time, setTime] = useState(0);
  const [pace, setPace] = useState<(typeof PACES)[number][0]>("1");
  const [stepped] = useState(calm);
  const ended = useRef(false);
  const last = useRef<number | null>(null);
  const end = (strike: number | null) => {
    if (ended.current) return;
    ended.current = true;
    onEnd(strike);
  };
  const finish = useRef(end);
  finish.current = end;

  useEffect(() => {
    if (stepped) return;
    let frame = 0;
    const tick = (now: number) => {
      const passed = last.current === null ? 0 : ((now - last.current) / 1000) * Number(pace);
      last.current = now;
      setTime((before) => Math.min(seen.ends_s, before + passed));
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(frame);
      last.current = null;
    };
  }, [pace, seen.ends_s, stepped]);

  useEffect(() => {
    if (time >= seen.ends_s) finish.current(null);
  }, [time, seen.ends_s]);

  const knocking = seen.knock_s.some((at) => time >= at && time < at + KNOCK_S);
  useEffect(() => {
    if (knocking) navigator.vibrate?.(KNOCK_MS);
  }, [knocking]);

  const strike = () => end(time);
  useKeys({ " ": strike });

  const at = Math.min(seen.x_m.length - 1, Math.floor(time / seen.frame_s));
  const here = seen.x_m[at] ?? 0;
  const dip = seen.dip[at] ?? 0;
  const wake = seen.wake_s !== null && time >= seen.wake_s;
  const said = seen.said.filter((one) => time >= one.at_s && time < one.at_s + SAID_S).at(-1);
  const from = -0.8;
  const span = up + reach + 1.6 - from;
  const x = (metres: number) => ((metres - from) / span) * width;
  const bubble = time * seen.bubbles_m_s;
  const words = said?.words ?? `${show(time, "s", 1)} after landing`;
  return (
    <div>
      <div ref={ref} className="overflow-hidden rounded-2xl">
        {width > 0 && (
          <svg width={width} height={HIGH} role="img" aria-label={`The river from above. ${words}`}>
            <rect width={width} height={HIGH} fill="var(--water-1)" />
            <rect
              x={x(up - reach)}
              y={0}
              width={x(up + reach) - x(up - reach)}
              height={HIGH}
              fill="var(--water-0)"
            />
            <text x={x(up)} y={18} textAnchor="middle" fontSize={13} fill="var(--ink)">
              fish should lie here
            </text>
            {Array.from({ length: BUBBLES }, (_, k) => {
              const lane = Math.abs(scattered(k + 1));
              const along = (Math.abs(scattered(k + 71)) * span + bubble) % span;
              return (
                <circle
                  // biome-ignore lint/suspicious/noArrayIndexKey: each bubble is known by its number
                  key={k}
                  cx={x(from + along)}
                  cy={30 + lane * (HIGH - 60)}
                  r={1.5 + 2 * Math.abs(scattered(k + 13))}
                  fill="white"
                  opacity={0.75}
                />
              );
            })}
            <circle cx={x(bubble)} cy={MIDDLE + 20} r={6} fill="none" stroke="var(--ink)" strokeWidth={2} />
            <Watched x={x(here)} dip={dip} tip={tip} wake={wake} knocking={knocking} />
            <text x={8} y={HIGH - 8} fontSize={12} fill="var(--ink)">
              {`${show(span, "m", 0)} of river, running right; ringed: the bubble it landed by`}
            </text>
          </svg>
        )}
      </div>
      <p className="min-h-7 text-lg font-semibold" aria-live="assertive">
        {said ? said.words : "\u00a0"}
      </p>
      <Button look="main" className="min-h-20 w-full text-xl" onClick={strike}>
        Strike
      </Button>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {stepped ? (
          <Button onClick={() => setTime((before) => Math.min(seen.ends_s, before + STEP_S))}>
            Next moment
          </Button>
        ) : (
          <Choice label="Pace" quiet value={pace} options={PACES} onChange={setPace} />
        )}
        <Button onClick={() => end(null)}>Skip to its end</Button>
      </div>
    </div>
  );
}

/** A float among the bubbles, or the sighter of a tight line over them. */
function Watched({
  x,
  dip,
  tip,
  wake,
  knocking,
}: {
  x: number;
  dip: number;
  tip: boolean;
  wake: boolean;
  knocking: boolean;
}) {
  if (tip)
    return (
      <g>
        <line x1={x - 26} x2={x} y1={24} y2={MIDDLE - 8} stroke="var(--ink)" strokeWidth={1.5} />
        <line
          x1={x - 12}
          x2={x}
          y1={MIDDLE - 48}
          y2={MIDDLE - 8 + 10 * dip}
          stroke="var(--signal)"
          strokeWidth={knocking ? 8 : 5}
          strokeLinecap="round"
        />
      </g>
    );
  return (
    <g>
      {wake && (
        <path
          d={`M${x - 26} ${MIDDLE - 12}L${x} ${MIDDLE}L${x - 26} ${MIDDLE + 12}`}
          fill="none"
          stroke="white"
          strokeWidth={2}
        />
      )}
      {dip > 0.05 && (
        <circle cx={x} cy={MIDDLE} r={10 + 12 * dip} fill="none" stroke="white" strokeWidth={2} />
      )}
      <circle
        cx={x}
        cy={MIDDLE}
        r={10 - 7 * dip}
        fill="var(--signal)"
        stroke="var(--ink)"
        strokeWidth={1.5}
        opacity={1 - 0.8 * dip}
      />
    </g>
  );
}
