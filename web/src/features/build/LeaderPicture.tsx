/** The leader hung up straight: lengths below the float or sighter to scale, what is above cut short with a break. */
import type { Build } from "../../api/client";
import { useUnits } from "../../units/context";

const WIDTH = 420;
const TOP = 24;
const LONG_PX = 70;
const BELOW_PX = 320;
const X = 100;

/** What is tied, and under it its size and bead: on one line it would run out of the picture. */
const linesOf = (words: string): string[] => {
  const [what = words, ...rest] = words.split(", ");
  return rest.length > 0 ? [what, rest.join(", ")] : [what];
};

const isAbove = (name: string) => name === "leader";

export function LeaderPicture({ build }: { build: Build }) {
  const { show } = useUnits();
  const line = build.sections.filter((one) => one.name !== "tag");
  const tag = build.sections.find((one) => one.name === "tag");
  const below = line.filter((one) => !isAbove(one.name)).reduce((sum, one) => sum + one.length_m, 0);
  const scale = BELOW_PX / Math.max(below, 0.3);
  let y = TOP;
  const drawn = line.map((one) => {
    const from = y;
    y += isAbove(one.name) ? LONG_PX : one.length_m * scale;
    return { one, from, to: y };
  });
  const end = y;
  const at = (above: number) => end - above * scale;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${end + 40}`}
      className="mt-2 w-full max-w-lg rounded-2xl bg-paper"
      role="img"
      aria-label="The leader from the rod end to the fly"
    >
      {drawn.map(({ one, from, to }) => (
        <g key={one.name}>
          <line
            x1={X}
            x2={X}
            y1={from}
            y2={to}
            stroke={one.name === "sighter" ? "var(--signal)" : "var(--ink)"}
            strokeWidth={Math.max(1.2, one.diameter_mm * 12)}
          />
          {isAbove(one.name) && (
            <path d={`M${X - 9} ${from + 38}l18 -8m-18 16l18 -8`} stroke="var(--ink)" strokeWidth={1.5} />
          )}
          <line x1={X - 8} x2={X + 8} y1={to} y2={to} stroke="var(--ink)" strokeWidth={1.5} />
          <g textAnchor="end">
            <text x={X - 16} y={(from + to) / 2} fontSize={15} fontWeight={600} fill="var(--ink)">
              {show(one.length_m, "m")}
            </text>
            <text x={X - 16} y={(from + to) / 2 + 17} fontSize={13} fill="var(--soft)">
              {one.name}
            </text>
          </g>
        </g>
      ))}
      {build.tied.map((part) => {
        const place = at(part.above_point_m);
        const hung = part.part === "dropper" && tag ? tag.length_m * scale : 0;
        return (
          <g key={part.part}>
            {hung > 0 && (
              <path d={`M${X} ${place}q22 2 24 ${hung}`} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
            )}
            <circle
              cx={X + (hung > 0 ? 24 : 0)}
              cy={place + hung}
              r={part.part === "float" ? 9 : part.part === "dry" ? 8 : part.part === "shot" ? 4 : 6}
              fill={part.part === "float" || part.part === "dry" ? "var(--signal)" : "var(--ink)"}
              stroke="var(--paper)"
            />
            <text y={place + hung + 5} fontSize={13} fill="var(--ink)">
              {linesOf(part.words).map((words, k) => (
                <tspan key={words} x={X + (hung > 0 ? 38 : 14)} dy={k === 0 ? 0 : 16}>
                  {words}
                </tspan>
              ))}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
