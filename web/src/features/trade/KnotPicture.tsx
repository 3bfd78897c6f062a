/** Drawn by us: the standing line in ink, the end that is tied in the signal's colour. */

/** An end wound about the line between two places, so many times. */
function wound(from: number, to: number, turns: number, high = 9, middle = 45): string {
  const step = (to - from) / (2 * turns);
  const waves = Array.from({ length: 2 * turns }, (_, k) => {
    const x = from + k * step;
    const bend = middle + (k % 2 === 0 ? -high : high);
    return `Q${(x + step / 2).toFixed(1)} ${bend * 2 - middle} ${(x + step).toFixed(1)} ${middle}`;
  });
  return `M${from} ${middle}${waves.join("")}`;
}

interface Step {
  ink: string[];
  end: string[];
  /** Eyes and rings: x, y, radius. */
  rings?: [number, number, number][];
  /** A hook, its eye at the left. */
  hook?: boolean;
}

const EYE: [number, number, number][] = [[152, 45, 9]];
const HOOK = "M60 30H128C160 30 160 70 132 70C124 70 120 64 122 58M122 54L118 66";
const SQUARE = "M0 45H70C92 20 116 20 116 45C116 70 92 70 70 45";

const KNOTS: Record<string, Step[]> = {
  clinch: [
    {
      ink: ["M0 45H143"],
      end: [`M152 54C150 66 138 64 134 45${wound(134, 54, 5).replace(/^M[^Q]+/, "")}`],
      rings: EYE,
    },
    {
      ink: ["M0 45H143"],
      end: [wound(134, 60, 5), "M60 45C44 14 116 4 138 34C144 44 134 52 126 42C112 22 88 20 74 28"],
      rings: EYE,
    },
    { ink: ["M0 45H143"], end: [wound(108, 140, 6, 5), "M112 40L100 28"], rings: EYE },
  ],
  surgeon: [
    {
      ink: ["M0 40H64C120 40 124 8 96 8C70 8 72 40 116 40H180"],
      end: ["M0 47H62C128 47 134 1 96 1C62 1 64 47 116 47H180"],
    },
    {
      ink: ["M0 40H64C120 40 124 8 96 8C70 8 72 40 116 40H180"],
      end: [wound(78, 118, 2, 16, 42), "M118 42L150 20"],
    },
    { ink: ["M0 43H180"], end: [wound(78, 104, 3, 6, 45), "M0 47H78", "M104 47C110 52 112 64 112 82"] },
  ],
  perfection: [
    {
      ink: ["M0 45H84"],
      end: ["M84 45C150 45 150 10 116 10C88 10 88 45 108 45C130 45 132 28 118 28C106 28 104 40 112 52"],
    },
    {
      ink: [
        "M0 45H84",
        "M84 45C150 45 150 10 116 10C88 10 88 45 108 45C130 45 132 28 118 28C106 28 104 40 112 52",
      ],
      end: ["M112 52C96 60 92 34 100 20L106 4"],
    },
    {
      ink: ["M0 45H92"],
      end: ["M96 45C110 24 168 24 168 45C168 66 110 66 96 45", wound(86, 100, 2, 4), "M90 41L84 28"],
    },
  ],
  loop_to_loop: [
    { ink: [SQUARE], end: ["M180 45H128C104 22 88 30 88 45C88 60 104 68 128 45"] },
    { ink: [SQUARE], end: ["M180 62C150 62 120 60 92 45C60 30 60 20 84 20", "M180 28C150 28 120 30 92 45"] },
    {
      ink: ["M0 45H64C84 32 104 32 104 45C104 58 84 58 64 45"],
      end: ["M180 45H116C96 32 78 32 78 45C78 58 96 58 116 45"],
    },
  ],
  to_the_bend: [
    { ink: [HOOK], end: ["M20 84H52C84 84 92 66 76 66C62 66 62 84 84 84", wound(24, 50, 3, 5, 84)] },
    { ink: [HOOK], end: ["M40 84H112C146 84 164 46 150 40C138 36 128 60 112 80", wound(60, 100, 4, 5, 84)] },
    { ink: [HOOK], end: ["M60 88C100 88 128 88 148 62", wound(122, 142, 4, 4, 80)] },
  ],
  to_a_ring: [
    { ink: ["M90 0V90"], end: [], rings: [[90, 45, 14]] },
    { ink: [wound(50, 74, 4, 5), "M0 45H76"], end: [], rings: [[90, 45, 14]] },
    {
      ink: [wound(50, 74, 4, 5), "M0 45H76"],
      end: [wound(106, 130, 4, 5), "M104 45H180", "M96 58C102 66 104 76 104 88"],
      rings: [[90, 45, 14]],
    },
  ],
  to_the_eye: [
    { ink: ["M0 30H52", wound(30, 50, 3, 4, 30), HOOK], end: [], rings: [[58, 30, 6]] },
    {
      ink: ["M0 30H52", wound(30, 50, 3, 4, 30), HOOK],
      end: ["M58 34C50 60 66 72 90 84", wound(64, 92, 4, 5, 78)],
      rings: [[58, 30, 6]],
    },
    {
      ink: ["M0 30H52", wound(34, 50, 4, 4, 30), HOOK],
      end: ["M58 36L64 48", "M64 48L110 90", wound(60, 76, 3, 4, 48)],
      rings: [[58, 30, 6]],
    },
  ],
};

export function KnotPicture({ knot, step, left }: { knot: string; step: number; left: boolean }) {
  const drawn = KNOTS[knot]?.[step];
  if (!drawn) return null;
  return (
    <svg viewBox="-4 -4 188 100" className="mb-1 w-full rounded-lg bg-ground" aria-hidden="true">
      <g transform={left ? "translate(180 0) scale(-1 1)" : undefined} fill="none" strokeLinecap="round">
        {drawn.rings?.map(([x, y, r]) => (
          <circle key={`${x} ${y}`} cx={x} cy={y} r={r} stroke="var(--ink)" strokeWidth={4} />
        ))}
        {drawn.ink.map((path) => (
          <path key={path} d={path} stroke="var(--ink)" strokeWidth={path === HOOK ? 4 : 3} />
        ))}
        {drawn.end.map((path) => (
          <path key={path} d={path} stroke="var(--signal)" strokeWidth={3} />
        ))}
      </g>
    </svg>
  );
}
