/** A fly as it looks in the palm: bead to scale with its hook, thick or slim as it is dressed. */
import type { BoxItem } from "../../api/client";

const PX_PER_MM = 3.6;

/** As wide beside a long name, or large letters, as beside a short one: two flies of a size are drawn of a size. */
const PLACE = "h-[48px] w-[80px] shrink-0";

export function FlyPicture({ item }: { item: BoxItem }) {
  if (item.kind === "float")
    return (
      <svg viewBox="0 0 100 60" className={PLACE} aria-hidden>
        <circle cx={50} cy={30} r={(item.size_mm ?? 10) * 1.35} fill="var(--paper)" stroke="var(--ink)" />
        <path
          d={`M${50 - (item.size_mm ?? 10) * 1.35} 30a${(item.size_mm ?? 10) * 1.35} ${(item.size_mm ?? 10) * 1.35} 0 0 1 ${2 * (item.size_mm ?? 10) * 1.35} 0z`}
          fill="var(--signal)"
        />
      </svg>
    );
  if (item.kind === "dry")
    return (
      <svg viewBox="0 0 100 60" className={PLACE} aria-hidden>
        <path d="M22 36q28 14 56 0q-28 -9 -56 0z" fill="var(--bed)" stroke="var(--ink)" />
        <path d="M34 31q26 -26 44 -18q-16 6 -26 20z" fill="var(--paper)" stroke="var(--ink)" />
        <path d="M30 40l-6 10m14 -9l-3 11m12 -11l2 11m10 -12l5 9" stroke="var(--ink)" fill="none" />
      </svg>
    );
  const shank = (item.shank_mm ?? 0) * PX_PER_MM;
  const thick = (item.dressed_mm ?? 0) * PX_PER_MM;
  const bead = (item.bead_mm ?? 0) * PX_PER_MM;
  const y = 26;
  const from = 6 + bead;
  const to = from + shank;
  return (
    <svg viewBox="0 0 100 60" className={PLACE} aria-hidden>
      <path
        d={`M${from} ${y}H${to}q9 0 9 10t-9 10q-6 0 -7 -6`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <ellipse
        cx={(from + to) / 2}
        cy={y}
        rx={shank / 2}
        ry={thick / 2 + 1}
        fill="var(--bed)"
        stroke={item.dressing === "slim" ? "var(--ink)" : "var(--bed-dark)"}
        strokeDasharray={item.dressing === "slim" ? undefined : "2 2"}
        strokeWidth={item.dressing === "soft" ? 3 : 1.5}
      />
      {bead > 0 && (
        <circle
          cx={from - bead / 2}
          cy={y}
          r={bead / 2}
          fill={item.material === "brass" ? "var(--caution-ground)" : "var(--ink)"}
          stroke="var(--ink)"
        />
      )}
    </svg>
  );
}
