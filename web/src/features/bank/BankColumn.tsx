import { type ReactNode, useId } from "react";
import type { Coaching, Ranked, Situation } from "../../api/client";
import { HangingRig, TopMark } from "../../draw/rig";
import { useSize } from "../../draw/size";
import { Bed, type Frame, Ruler, Water, Zone } from "../../draw/water";
import { useColumn } from "../../queries/water";
import { useOnline } from "../../ui/online";

const RULER_PX = 40;
/** What of the drawing is air above the water, and bed under it, on a phone. */
const AIR_PX = 30;
const BED_PX = 18;

/** The rig in hand in its column, above the keys: on a phone in whatever room they leave. */
export function BankColumn({
  situation,
  picture,
  belief,
  children,
}: {
  situation: Situation;
  /** "dry": a single one, with nothing under it. */
  picture: Ranked["picture"] | "dry" | undefined;
  /** What the drifts say of the depth; undefined before the first. */
  belief: Coaching["depth_belief_m"] | undefined;
  children?: ReactNode;
}) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const asked = useColumn(situation);
  const online = useOnline();
  // the column of another water is no picture of this one
  const column = asked.isPlaceholderData && asked.fetchStatus !== "fetching" ? undefined : asked.data;
  const phone = width < 520;
  const air = phone ? AIR_PX : 64;
  const water = phone ? Math.max(1, height - AIR_PX - BED_PX) : 290;
  const frame: Frame | null = column
    ? {
        width,
        surface: air,
        scale: water / (Math.max(column.depth_p90_m, belief?.p90 ?? 0) * 1.04),
        height: air + water + BED_PX,
        depth: column.depth_m,
      }
    : null;
  return (
    <div
      ref={ref}
      className="relative mt-1 min-h-18 grow basis-30 short:basis-18 overflow-hidden rounded-2xl bg-paper max-lg:max-h-60 lg:h-93 lg:flex-none"
    >
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
          {belief && <Band frame={frame} belief={belief} />}
          <Ruler frame={frame} />
          {picture === "dry" && (
            <TopMark frame={frame} x={(RULER_PX + width) / 2} sizeMm={0} top="dry" fill="var(--signal)" />
          )}
          {picture && picture !== "dry" && (
            <HangingRig frame={frame} picture={picture} left={RULER_PX} right={width} active />
          )}
        </svg>
      )}
      {!column && !online && asked.errorUpdateCount > 0 && (
        <p className="px-3 py-2 text-sm leading-tight text-soft">
          Nothing is worked out for this lie: it was not taken along, and there is no signal. The setting
          above is what hangs on the rod.
        </p>
      )}
      {children}
    </div>
  );
}

/** Where the bottom may be, after the drifts so far: soft where it is less likely, never an edge. */
function Band({ frame, belief }: { frame: Frame; belief: Coaching["depth_belief_m"] }) {
  const id = useId();
  const y = (depth: number) => frame.surface + depth * frame.scale;
  const middle = (belief.p50 - belief.p10) / Math.max(1e-6, belief.p90 - belief.p10);
  return (
    <>
      <defs>
        <linearGradient id={id} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--bed-dark)" stopOpacity={0} />
          <stop offset={middle} stopColor="var(--bed-dark)" stopOpacity={0.75} />
          <stop offset="1" stopColor="var(--bed-dark)" stopOpacity={0} />
        </linearGradient>
      </defs>
      <rect
        x={0}
        y={y(belief.p10)}
        width={frame.width}
        height={Math.max(4, y(belief.p90) - y(belief.p10))}
        fill={`url(#${id})`}
      />
    </>
  );
}
