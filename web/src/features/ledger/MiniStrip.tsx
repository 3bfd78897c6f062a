import type { components } from "../../api/generated";
import { useWidth } from "../../draw/size";

type Block = components["schemas"]["BlockOut"];

const HIGH = 44;
const SURFACE = 13;
const UNDER_THE_BED = 1.2;
const LEAST_S = 600;
const TOUCHES = ["tick", "hung", "lost_fly"];

const last = (block: Block) => Math.max(block.from_s, ...block.at_s);

/** An outing from the side, in a line of a list: where it was deep, how deep it was fished, and what came. */
export function MiniStrip({ blocks }: { blocks: Block[] | undefined }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const from = Math.min(...(blocks ?? []).map((one) => one.from_s));
  const span = Math.max(LEAST_S, ...(blocks ?? []).map((one) => last(one) - from));
  const deepest = UNDER_THE_BED * Math.max(0.1, ...(blocks ?? []).map((one) => one.depth_m ?? 0));
  const x = (at: number) => 6 + ((at - from) / span) * (width - 12);
  const y = (depth: number) => SURFACE + (depth / deepest) * (HIGH - SURFACE);
  return (
    <div ref={ref} style={{ height: HIGH }} className="mt-2">
      {blocks && width > 0 && (
        <svg width={width} height={HIGH} aria-hidden="true">
          {blocks.map((block) => {
            const left = x(block.from_s);
            const right = Math.max(x(last(block)), left + 2);
            const bed = y(block.depth_m ?? 0);
            const set = y(Math.min(block.set_m ?? 0, block.depth_m ?? 0));
            return (
              <g key={`${block.from_s} ${block.lie}`}>
                <rect
                  x={left}
                  y={SURFACE}
                  width={right - left}
                  height={bed - SURFACE}
                  fill="var(--water-0)"
                />
                <rect
                  x={left}
                  y={bed}
                  width={right - left}
                  height={HIGH - bed}
                  fill="var(--bed)"
                  opacity={0.35}
                />
                {block.at_s.map((at, k) => {
                  const how = block.ended[k] ?? "clean";
                  return (
                    // biome-ignore lint/suspicious/noArrayIndexKey: drifts of one setting, in time
                    <g key={k}>
                      <line x1={x(at)} x2={x(at)} y1={SURFACE} y2={set} stroke="var(--mark)" opacity={0.7} />
                      {TOUCHES.includes(how) && <circle cx={x(at)} cy={bed} r={1.8} fill="var(--ink)" />}
                      {how === "fish" && <circle cx={x(at)} cy={6} r={4.5} fill="var(--signal)" />}
                      {how === "missed" && (
                        <circle
                          cx={x(at)}
                          cy={6}
                          r={3.5}
                          fill="none"
                          stroke="var(--signal)"
                          strokeWidth={1.5}
                        />
                      )}
                    </g>
                  );
                })}
              </g>
            );
          })}
        </svg>
      )}
    </div>
  );
}
