import { useWidth } from "../../draw/size";
import { type Block, HIGH, paths } from "./strip";

/** An outing from the side, in a line of a list: where it was deep, how deep it was fished, and what came. */
export function MiniStrip({ blocks }: { blocks: Block[] | undefined }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  return (
    <div ref={ref} style={{ height: HIGH }} className="mt-2">
      {blocks && width > 0 && <Drawn {...paths(blocks, width)} width={width} />}
    </div>
  );
}

function Drawn({ width, ...drawn }: ReturnType<typeof paths> & { width: number }) {
  return (
    <svg width={width} height={HIGH} aria-hidden="true" fill="none" strokeLinecap="round">
      <path d={drawn.water} fill="var(--water-0)" />
      <path d={drawn.bed} fill="var(--bed)" opacity={0.35} />
      <path d={drawn.drifts} stroke="var(--mark)" opacity={0.7} strokeLinecap="butt" />
      <path d={drawn.touched} stroke="var(--ink)" strokeWidth={3.6} />
      <path d={drawn.missed} stroke="var(--signal)" strokeWidth={8.5} />
      <path d={drawn.missed} stroke="var(--paper)" strokeWidth={5.5} />
      <path d={drawn.fish} stroke="var(--signal)" strokeWidth={9} />
    </svg>
  );
}
