import type { LogAnswer, Part, Question } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";
import { shownOf, shownRate } from "./rates";

const ROW = 46;
const TOP = 8;
const BOTTOM = 40;
const RIGHT = 18;
const NARROW_PX = 520;
const STEPS = [0.2, 0.5, 1, 2, 5, 10, 20, 50];

/** Each part's rate as a dot with the line within which it lies 9 times in 10; the ring is the rate in similar water. */
export function RatePicture({ answer, question }: { answer: LogAnswer; question: Question }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { say } = useUnits();
  const { times: of, unit } = shownOf(question);
  const { parts } = answer;
  const narrow = width < NARROW_PX;
  const left = narrow ? 8 : Math.min(230, width * 0.3);
  const row = narrow ? ROW + 14 : ROW;
  const most = 1.05 * of * Math.max(...parts.map((one) => Math.max(one.rate.high, one.alike.median)));
  const x = (rate: number) => left + (rate / most) * (width - left - RIGHT);
  const step = STEPS.find((one) => most / one <= (narrow ? 4 : 7)) ?? 100;
  const ticks = Array.from({ length: Math.floor(most / step) + 1 }, (_, k) => k * step);
  const height = TOP + row * parts.length + BOTTOM;
  const number = (rate: number) => shownRate(rate, of);
  return (
    <div ref={ref} className="rounded-2xl bg-paper p-1" style={{ minHeight: height + 8 }}>
      {width > 0 && (
        <svg
          width={width - 8}
          height={height}
          role="img"
          aria-label={parts
            .map(
              (one) =>
                `${say(one.label)}: ${number(one.rate.median)}, from ${number(one.rate.low)} to ${number(one.rate.high)} ${unit}`,
            )
            .join("; ")}
        >
          {ticks.map((tick) => (
            <g key={tick}>
              <line x1={x(tick)} x2={x(tick)} y1={TOP} y2={height - BOTTOM} stroke="var(--line)" />
              <text x={x(tick)} y={height - BOTTOM + 16} textAnchor="middle" fontSize={13} fill="var(--soft)">
                {tick}
              </text>
            </g>
          ))}
          <text x={width - 8 - RIGHT} y={height - 6} textAnchor="end" fontSize={13} fill="var(--soft)">
            {unit}
          </text>
          {parts.map((one, k) => (
            <PartRow
              key={one.key}
              one={one}
              best={one.key === answer.best && answer.certainty === "sure"}
              label={say(one.label)}
              y={TOP + row * k + (narrow ? 34 : row / 2)}
              labelAt={narrow ? [8, TOP + row * k + 18] : [left - 12, TOP + row * k + row / 2 + 5]}
              narrow={narrow}
              x={(rate) => x(rate * of)}
            />
          ))}
        </svg>
      )}
    </div>
  );
}

function PartRow({
  one,
  best,
  label,
  y,
  labelAt,
  narrow,
  x,
}: {
  one: Part;
  best: boolean;
  label: string;
  y: number;
  labelAt: readonly [number, number];
  narrow: boolean;
  x: (rate: number) => number;
}) {
  const ink = best ? "var(--signal)" : "var(--ink)";
  return (
    <g>
      <text
        x={labelAt[0]}
        y={labelAt[1]}
        textAnchor={narrow ? "start" : "end"}
        fontSize={15}
        fontWeight={best ? 700 : 400}
        fill="var(--ink)"
        stroke="var(--paper)"
        strokeWidth={5}
        paintOrder="stroke"
      >
        {label}
        <tspan fill="var(--soft)" fontWeight={400} fontSize={13}>{`  ${one.drifts} drifts`}</tspan>
      </text>
      <line
        x1={x(one.rate.low)}
        x2={x(one.rate.high)}
        y1={y}
        y2={y}
        stroke={ink}
        strokeWidth={3}
        strokeLinecap="round"
      />
      <circle cx={x(one.rate.median)} cy={y} r={7} fill={ink} />
      <circle cx={x(one.alike.median)} cy={y} r={11} fill="none" stroke="var(--soft)" strokeWidth={1.5} />
    </g>
  );
}
