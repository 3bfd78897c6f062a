/** What each list is about in one picture: who, where the water goes (dashed), and the thing to mind (red). */
interface Drawn {
  /** Where the water begins, from the top; none: on land. */
  water?: number;
  /** Heads and solid things. */
  solid: string;
  ink: string;
  mind: string;
  way: string;
}

const dot = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;

const LISTS: Record<string, Drawn> = {
  leaving: {
    solid: dot(150, 34, 2.5),
    ink: `M20 96V58L50 34L80 58V96ZM42 96V74H58V96${dot(150, 34, 20)}M150 34V20M150 34L162 40`,
    mind: "M132 92C146 84 152 100 166 92C180 84 186 100 204 92",
    way: "M88 80H122m-8 -6l8 6l-8 6",
  },
  stepping_in: {
    water: 76,
    solid: dot(104, 20, 8),
    ink: "M104 28V62L94 100M104 62L116 100M104 38L134 50M134 36V104",
    mind: "M20 102C32 92 56 92 68 102",
    way: "M208 90H166m8 -6l-8 6l8 6",
  },
  fish_on: {
    water: 8,
    solid: `${dot(176, 102, 6)}M52 40C66 30 90 30 104 40L114 33V47L104 42C90 52 66 50 52 40Z`,
    ink: "M176 102L132 84M196 84a10 10 0 1 0 -14 6",
    mind: "M132 84L56 42",
    way: "M20 20H62m-8 -6l8 6l-8 6",
  },
  releasing: {
    water: 22,
    solid: "M50 58C72 40 118 40 142 56L162 44V72L142 62C118 78 72 76 50 58Z",
    ink: "M74 104C70 82 90 76 100 84M136 104C134 82 118 76 108 84",
    mind: "M40 58H22m7 -6l-7 6l7 6",
    way: "M170 34H208m-8 -6l8 6l-8 6",
  },
  hook_in_skin: {
    solid: dot(120, 18, 4),
    ink: "M14 72C50 62 110 62 146 66C166 70 166 92 146 96C110 100 50 100 14 104M120 22V70C120 90 148 88 146 66",
    mind: "M96 32v24m-6 -8l6 8l6 -8",
    way: "M132 44H186m-8 -6l8 6l-8 6",
  },
  fallen_in: {
    water: 58,
    solid: dot(66, 52, 8),
    ink: "M74 56H122L158 46V34M122 56L152 58V46M88 56L76 80",
    mind: "M190 100L200 84L212 104M170 104L178 94L188 106",
    way: "M20 88H62m-8 -6l8 6l-8 6",
  },
  after: {
    solid: dot(176, 28, 10),
    ink: "M92 22V74C92 84 98 92 110 92H150C152 78 140 74 122 72V22Z",
    mind: "M20 40C28 34 34 46 42 40C50 34 56 46 64 40M20 60L64 20",
    way: "M176 8V2M194 28H204M188 16L196 9M158 28H150M164 40L157 47M188 40L195 47",
  },
};

export function ListPicture({ list }: { list: string }) {
  const one = LISTS[list];
  if (!one) return null;
  return (
    <svg viewBox="0 0 220 112" className="w-full rounded-lg bg-ground" aria-hidden="true">
      {one.water !== undefined && (
        <rect y={one.water} width={220} height={112 - one.water} fill="var(--water-1)" />
      )}
      <path d={one.solid} fill="var(--ink)" />
      <g fill="none" strokeLinecap="round" strokeLinejoin="round" strokeWidth={3}>
        <path d={one.ink} stroke="var(--ink)" />
        <path d={one.mind} stroke="var(--signal)" />
        <path d={one.way} stroke="var(--mark)" strokeDasharray="6 4" />
      </g>
    </svg>
  );
}
