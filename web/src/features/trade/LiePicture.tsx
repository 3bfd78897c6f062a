import { Sketch } from "./Sketch";

/** What is looked at or done at a lie in one picture: line and rod, the flies, and (dashed) the way that is meant. The water goes to the right. */
interface Drawn {
  seen: "side" | "above";
  rod: string;
  /** What is watched, or goes first. */
  minded: string;
  line?: string;
  way: string;
  /** Places of flies, heads and bubbles. */
  solid?: [x: number, y: number, r: number][];
  bubbles?: [x: number, y: number][];
}

const LIE: Record<string, Drawn> = {
  signs: {
    seen: "above",
    rod: "M116 88L134 74L142 88",
    line: "M152 70a15 6 0 1 1 2 10m7 -5l-7 5l7 4M26 70a12 7 0 1 0 24 0a12 7 0 1 0 -24 0M33 70a5 3 0 1 0 10 0a5 3 0 1 0 -10 0",
    minded: "M118 40H152",
    way: "M52 66C96 58 150 62 212 52",
    solid: [[102, 40, 10]],
    bubbles: [
      [88, 58],
      [124, 56],
      [148, 58],
      [176, 54],
    ],
  },
  cover: {
    seen: "above",
    rod: "M176 96L150 84",
    minded: "M150 84L58 72",
    way: "M150 84L70 48M150 84L92 24M150 84L126 14M160 106H112m8 -5l-8 5l8 5",
    solid: [[180, 100, 6]],
  },
  euro: {
    seen: "side",
    rod: "M218 2L116 12",
    minded: "M116 12L112 32",
    line: "M112 32L102 92",
    way: "M64 16C88 4 140 -2 172 12m-9 -2l9 2l-4 -8",
    solid: [
      [102, 93, 4],
      [106, 68, 3],
    ],
  },
  indicator: {
    seen: "side",
    rod: "M218 4L176 10",
    minded: "M108 40a8 8 0 1 0 16 0a8 8 0 1 0 -16 0",
    line: "M176 10C160 40 150 40 124 38M114 48C112 66 106 82 98 92",
    way: "M132 54H176m-9 -5l9 5l-9 5",
    solid: [
      [98, 93, 4],
      [108, 73, 3],
    ],
    bubbles: [
      [152, 40],
      [164, 38],
      [172, 41],
    ],
  },
  dry_dropper: {
    seen: "side",
    rod: "M218 4L176 10",
    minded: "M124 40H140M128 32L136 46M136 32L128 46",
    line: "M176 10C166 34 156 40 140 40M124 41L92 88",
    way: "M148 54H184m-9 -5l9 5l-9 5",
    solid: [[91, 90, 4]],
  },
};

export function LiePicture({ part, title }: { part: string; title: string }) {
  const one = LIE[part];
  if (!one) return null;
  const side = one.seen === "side";
  return (
    <Sketch title={title}>
      <rect y={side ? 40 : 8} width={220} height={side ? 72 : 80} fill="var(--water-1)" />
      {side && <rect y={100} width={220} height={12} fill="var(--bed-dark)" />}
      <path
        d={side ? "M16 62h30m-7 -5l7 5l-7 5" : "M14 24h30m-7 -5l7 5l-7 5"}
        fill="none"
        stroke="var(--bed-dark)"
        strokeWidth={3}
        strokeLinecap="round"
      />
      <g fill="none" strokeLinecap="round">
        {one.bubbles?.map(([x, y]) => (
          <circle key={x} cx={x} cy={y} r={3} stroke="var(--ink)" />
        ))}
        <path d={one.rod} stroke="var(--ink)" strokeWidth={3.5} />
        {one.line && <path d={one.line} stroke="var(--ink)" strokeWidth={1.5} />}
        <path d={one.minded} stroke="var(--signal)" strokeWidth={3.5} />
        <path d={one.way} stroke="var(--mark)" strokeWidth={2} strokeDasharray="5 4" />
      </g>
      {one.solid?.map(([x, y, r]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={r} fill="var(--ink)" />
      ))}
    </Sketch>
  );
}
