import type { ReactNode } from "react";

const INK = { fill: "none", stroke: "var(--ink)", strokeWidth: 1.5 } as const;
const HERE = "var(--signal)";

/** One of four small pictures, with the part that a word means picked out. */
export function WordPicture({ drawing }: { drawing: string }) {
  const [family, part = ""] = drawing.split(":");
  const picture = PICTURES[family as keyof typeof PICTURES];
  if (!picture) return null;
  return (
    <svg viewBox="0 0 160 100" className="w-full max-w-sm rounded-lg" aria-hidden="true">
      {picture(part)}
    </svg>
  );
}

const PICTURES = { rig, tight, above, column };

/** The colour of a part: the signal's where it is meant. */
const tint = (part: string, meant: string, plain = "var(--ink)") => (part === meant ? HERE : plain);
const wide = (part: string, meant: string) => (part === meant ? 4 : 1.5);

function Side({ children, bed = "M0 92H160V100H0Z" }: { children?: ReactNode; bed?: string }) {
  return (
    <>
      <rect width={160} height={100} fill="var(--paper)" />
      <rect y={24} width={160} height={76} fill="var(--water-1)" />
      <path d={bed} fill="var(--bed)" />
      {children}
    </>
  );
}

function rig(part: string) {
  return (
    <Side>
      <line
        x1={80}
        x2={84}
        y1={24}
        y2={84}
        stroke={tint(part, "tippet")}
        strokeWidth={wide(part, "tippet")}
      />
      <line x1={81} x2={68} y1={56} y2={64} stroke={tint(part, "tag")} strokeWidth={wide(part, "tag")} />
      <circle cx={66} cy={65} r={part === "dropper" ? 6 : 4} fill={tint(part, "dropper")} />
      <circle cx={84} cy={85} r={part === "point" ? 7 : 5} fill={tint(part, "point")} />
      <circle cx={81} cy={44} r={part === "shot" ? 5 : 2.5} fill={tint(part, "shot")} />
      <circle cx={80} cy={22} r={8} fill={tint(part, "float", "var(--paper)")} stroke="var(--ink)" />
      {part === "length" && (
        <path d="M112 24h10M117 24V84M112 84h10" fill="none" stroke={HERE} strokeWidth={3} />
      )}
    </Side>
  );
}

function tight(part: string) {
  const all = part === "all";
  return (
    <Side>
      <path d="M4 6L60 2" {...INK} strokeWidth={3} stroke={all ? HERE : "var(--ink)"} />
      <path
        d="M60 2L78 24L86 84"
        {...INK}
        stroke={part === "leader" || all ? HERE : "var(--ink)"}
        strokeWidth={part === "leader" || all ? 3 : 1.5}
      />
      <path
        d="M66 9L75 20"
        stroke={part === "sighter" ? HERE : "var(--water-4)"}
        strokeWidth={part === "sighter" ? 6 : 4}
        strokeLinecap="round"
      />
      <circle cx={86} cy={85} r={5} fill={all ? HERE : "var(--ink)"} />
    </Side>
  );
}

const LANES = [30, 48, 66];

function above(part: string) {
  const float = (
    <circle
      cx={92}
      cy={46}
      r={6}
      fill={part === "pace" || part === "drag" ? HERE : "var(--paper)"}
      stroke="var(--ink)"
    />
  );
  return (
    <>
      <rect width={160} height={100} fill={part === "beat" ? "var(--zone)" : "var(--bed)"} />
      <rect
        y={14}
        width={160}
        height={66}
        fill={part === "beat" ? HERE : "var(--water-1)"}
        opacity={part === "beat" ? 0.5 : 1}
      />
      {part === "lane" && <rect y={39} width={160} height={16} fill={HERE} opacity={0.55} />}
      {part === "seam" && <path d="M0 40C50 36 110 46 160 40" fill="none" stroke={HERE} strokeWidth={4} />}
      {part === "lie" && <ellipse cx={112} cy={46} rx={22} ry={11} fill={HERE} opacity={0.55} />}
      {LANES.map((y) => (
        <path key={y} d={`M10 ${y - 10}h24m-6 -4l6 4l-6 4`} {...INK} stroke="var(--water-4)" />
      ))}
      <path d="M104 47c6 -5 14 -5 18 0c-4 5 -12 5 -18 0l-6 -4v8z" fill="var(--water-4)" />
      <circle cx={60} cy={90} r={part === "stance" ? 8 : 5} fill={part === "stance" ? HERE : "var(--ink)"} />
      {part === "drift" && <path d="M40 46H140m-9 -6l9 6l-9 6" fill="none" stroke={HERE} strokeWidth={4} />}
      {part === "swing" && <path d="M92 46C124 46 132 66 112 76" fill="none" stroke={HERE} strokeWidth={4} />}
      {part === "lead" && (
        <path d="M56 32h52m-7 -5l7 5l-7 5M63 27l-7 5l7 5" fill="none" stroke={HERE} strokeWidth={3} />
      )}
      {part === "mend" ? (
        <path d="M60 88C20 70 50 50 90 46" fill="none" stroke={HERE} strokeWidth={3} />
      ) : part === "drag" ? (
        <>
          <path d="M60 88C140 84 136 60 96 47" fill="none" stroke={HERE} strokeWidth={3} />
          <path d="M74 36L92 46L74 56" {...INK} stroke="var(--paper)" />
        </>
      ) : (
        <path d="M60 88C66 70 76 56 90 47" {...INK} />
      )}
      {part === "pace" && <circle cx={118} cy={32} r={4} fill="var(--paper)" stroke="var(--ink)" />}
      {!["beat", "lie", "lane", "seam"].includes(part) && float}
    </>
  );
}

const STONES = "M0 92H60C66 82 78 82 84 92H160V100H0Z";
const EDGE = "M0 52H58C70 52 70 90 84 90H160V100H0Z";

function column(part: string) {
  const touching = part === "tick" || part === "hung";
  const y = touching ? 81 : part === "tuck" ? 60 : 76;
  return (
    <Side bed={part === "drop" ? EDGE : touching ? STONES : undefined}>
      {part === "drop" && <path d="M58 52C70 52 70 90 84 90" fill="none" stroke={HERE} strokeWidth={4} />}
      {part === "zone" && (
        <rect y={70} width={160} height={22} fill="var(--zone)" stroke={HERE} strokeWidth={2} />
      )}
      {part === "undertow" &&
        [34, 54, 76].map((at, k) => (
          <path
            key={at}
            d={`M20 ${at}h${40 + 30 * k}m-8 -5l8 5l-8 5`}
            fill="none"
            stroke={k === 2 ? HERE : "var(--water-4)"}
            strokeWidth={k === 2 ? 4 : 2}
          />
        ))}
      {part === "depth" && (
        <path d="M80 26V90m-6 -9l6 9l6 -9M74 35l6 -9l6 9" fill="none" stroke={HERE} strokeWidth={3} />
      )}
      {part === "dead" && (
        <path
          d="M84 66h34m-7 -5l7 5l-7 5M84 86h34m-7 -5l7 5l-7 5"
          fill="none"
          stroke={HERE}
          strokeWidth={2.5}
        />
      )}
      {part === "take" && (
        <path d="M84 76c10 -10 32 -10 40 0l12 -7v14l-12 -7c-8 10 -30 10 -40 0z" fill={HERE} />
      )}
      {!["depth", "drop", "undertow"].includes(part) && (
        <>
          <path
            d={part === "tuck" ? `M20 10C60 -4 70 30 72 ${y}` : `M60 24C66 44 70 60 74 ${y}`}
            {...INK}
            stroke={part === "tuck" ? HERE : "var(--ink)"}
          />
          <circle cx={part === "tuck" ? 72 : 75} cy={y} r={5} fill={touching ? HERE : "var(--ink)"} />
          {part === "hung" && <path d="M66 72l18 18m0 -18l-18 18" stroke={HERE} strokeWidth={3} />}
        </>
      )}
    </Side>
  );
}
