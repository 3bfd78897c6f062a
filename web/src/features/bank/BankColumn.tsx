import type { Ranked, Situation } from "../../api/client";
import { useColumn } from "../../api/hooks";
import { HangingRig } from "../../draw/rig";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, Ruler, Water, Zone } from "../../draw/water";

const RULER_PX = 40;

/** The rig in hand in its column, small, above the keys. */
export function BankColumn({ situation, ranked }: { situation: Situation; ranked: Ranked | undefined }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const column = useColumn(situation).data;
  const phone = width < 520;
  const water = phone ? 104 : 290;
  const air = phone ? 30 : 64;
  const frame: Frame | null = column
    ? {
        width,
        surface: air,
        scale: water / (column.depth_p90_m * 1.04),
        height: air + water + 18,
        depth: column.depth_m,
      }
    : null;
  return (
    <div ref={ref} className="mt-1 min-h-38 overflow-hidden rounded-2xl bg-paper">
      {column && frame && width > 0 && (
        <svg
          width={width}
          height={frame.height}
          role="img"
          aria-label="The rig in hand, hanging in this water, to scale"
        >
          <rect width={width} height={frame.surface} fill="var(--paper)" />
          <Water frame={frame} />
          <Zone frame={frame} low={column.zone_low_m} high={column.zone_high_m} />
          <Bed
            frame={frame}
            roughness={column.bed_ks_m}
            spread={(column.depth_p90_m - column.depth_p10_m) / 2}
          />
          <Ruler frame={frame} />
          {ranked?.picture && (
            <HangingRig frame={frame} picture={ranked.picture} left={RULER_PX} right={width} active />
          )}
        </svg>
      )}
    </div>
  );
}
