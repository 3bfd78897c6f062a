import { Sketch } from "./Sketch";

/** Each cast in one picture: the rod where it stops, the line as it flies, the way of the tip. */
const CASTS: Record<
  string,
  { rod: string; line: string; way: string; more?: string; seen: "side" | "above" }
> = {
  lob: {
    seen: "side",
    rod: "M60 84L96 30",
    line: "M96 30C120 40 190 76 216 88",
    way: "M120 62C96 30 74 24 48 40",
  },
  roll: {
    seen: "side",
    rod: "M60 84L34 30",
    line: "M34 30C20 60 30 84 60 88H216",
    way: "M34 24C60 4 96 14 110 44",
  },
  tuck: {
    seen: "side",
    rod: "M60 84L92 18",
    line: "M92 18C140 2 176 16 176 50C176 70 164 80 160 90",
    way: "M70 20C80 10 96 8 108 14",
  },
  reach: {
    seen: "above",
    rod: "M110 96L60 66",
    line: "M60 66C60 40 100 26 150 24",
    way: "M120 64C100 58 84 58 70 64",
    more: "M14 40h30m-7 -5l7 5l-7 5",
  },
  oval: {
    seen: "side",
    rod: "M60 84L100 40",
    line: "M100 40C140 30 180 40 206 66",
    way: "M104 66C60 76 20 56 40 28C56 8 100 14 116 36",
  },
  bow: {
    seen: "side",
    rod: "M60 84C84 70 110 44 92 40",
    line: "M92 40L58 66",
    way: "M100 44H190m-9 -6l9 6l-9 6",
    more: "M120 0C150 24 190 26 220 20",
  },
};

export function CastPicture({ cast, title }: { cast: string; title: string }) {
  const one = CASTS[cast];
  if (!one) return null;
  const side = one.seen === "side";
  return (
    <Sketch title={title}>
      <rect y={side ? 88 : 8} width={220} height={side ? 24 : 80} fill="var(--water-1)" />
      <circle cx={side ? 54 : 112} cy={side ? 66 : 102} r={6} fill="var(--ink)" />
      {side && <path d="M54 72V100" stroke="var(--ink)" strokeWidth={5} />}
      <g fill="none" strokeLinecap="round">
        {one.more && <path d={one.more} stroke="var(--bed-dark)" strokeWidth={3} />}
        <path d={one.rod} stroke="var(--ink)" strokeWidth={3.5} />
        <path d={one.line} stroke="var(--signal)" strokeWidth={2} />
        <path d={one.way} stroke="var(--mark)" strokeWidth={2} strokeDasharray="5 4" />
      </g>
    </Sketch>
  );
}
