/** An outing from the side as paths: one a kind of mark, since a list has thousands of them. */
import type { components } from "../../api/generated";

export type Block = components["schemas"]["BlockOut"];

export const HIGH = 44;
const SURFACE = 13;
const UNDER_THE_BED = 1.2;
const LEAST_S = 600;
const TOUCHES = ["tick", "hung", "lost_fly"];

/** Where a take stands, above the water. */
const TAKEN = 6;

const last = (block: Block) => Math.max(block.from_s, ...block.at_s);

const dot = (x: number, y: number) => `M${x.toFixed(1)} ${y.toFixed(1)}h0`;

export function paths(blocks: Block[], width: number) {
  const from = Math.min(...blocks.map((one) => one.from_s));
  const span = Math.max(LEAST_S, ...blocks.map((one) => last(one) - from));
  const deepest = UNDER_THE_BED * Math.max(0.1, ...blocks.map((one) => one.depth_m ?? 0));
  const x = (at: number) => 6 + ((at - from) / span) * (width - 12);
  const y = (depth: number) => SURFACE + (depth / deepest) * (HIGH - SURFACE);
  const drawn = { water: "", bed: "", drifts: "", touched: "", fish: "", missed: "" };
  for (const block of blocks) {
    const left = x(block.from_s);
    const wide = Math.max(x(last(block)) - left, 2);
    const bed = y(block.depth_m ?? 0);
    const set = y(Math.min(block.set_m ?? 0, block.depth_m ?? 0));
    drawn.water += box(left, SURFACE, wide, bed);
    drawn.bed += box(left, bed, wide, HIGH);
    block.at_s.forEach((at, k) => {
      const how = block.ended[k] ?? "clean";
      drawn.drifts += `M${x(at).toFixed(1)} ${SURFACE}V${set.toFixed(1)}`;
      if (TOUCHES.includes(how)) drawn.touched += dot(x(at), bed);
      if (how === "fish") drawn.fish += dot(x(at), TAKEN);
      if (how === "missed") drawn.missed += dot(x(at), TAKEN);
    });
  }
  return drawn;
}

const box = (left: number, top: number, wide: number, foot: number) =>
  `M${left.toFixed(1)} ${top.toFixed(1)}h${wide.toFixed(1)}V${foot.toFixed(1)}h${(-wide).toFixed(1)}z`;
