import { useId } from "react";
import type { Bottom, CoachIn, Coaching } from "../../api/client";
import { useCoaches } from "../../queries/card";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { isAt, laneName, type Spot, stanceName } from "./spots";

interface Props {
  lie: string;
  /** Every spot that is shown, the near lane first, from the lowest stance up. */
  spots: Spot[];
  here: Spot;
  /** In how many lanes the lie is fished; undefined where that is not known. */
  lanes: number | undefined;
  bottom: Bottom[];
  /** Where each drift of the stay was fished. */
  drifts: Spot[];
  /** What the coach is asked of a spot; null where there is nothing to ask. */
  asked: (spot: Spot) => CoachIn | null;
  onGo: (to: Spot) => void;
  /** Takes back what was kept of the spot where one stands; null where nothing was, in this outing. */
  onForget: (() => void) | null;
  onClose: () => void;
}

type Belief = Coaching["depth_belief_m"];

/** Pixels that the deepest water is drawn with. */
const DEEPEST_PX = 110;

/** The bottom of the lie, lane by lane and stance by stance, as far as drifts have told of it; a tap goes there. */
export function BottomSheet({
  lie,
  spots,
  here,
  lanes,
  bottom,
  drifts,
  asked,
  onGo,
  onForget,
  onClose,
}: Props) {
  const answers = useCoaches(lie, spots.map(asked));
  const known = spots.map((spot, k) => {
    const belief = answers[k]?.data?.depth_belief_m ?? null;
    const kept = bottom.find((one) => isAt(one, spot)) ?? null;
    const asking = answers[k]?.isFetching ?? false;
    return { spot, belief, kept, asking, fished: drifts.filter((one) => isAt(one, spot)).length };
  });
  const deepest = Math.max(...known.map(({ belief, kept }) => belief?.p90 ?? kept?.depth_m ?? 0));
  const stances = [...new Set(spots.map((one) => one.stance))];
  return (
    <Sheet title="The bottom here, as the drifts tell it" open onClose={onClose}>
      {stances.map((stance) => (
        <section key={stance} aria-label={stanceName(stance)}>
          <h3 className="text-sm text-soft">{stanceName(stance)}, from the near lane out</h3>
          <div className="flex flex-wrap gap-1">
            {known
              .filter((one) => one.spot.stance === stance)
              .map((one) => (
                <Place
                  key={one.spot.lane}
                  {...one}
                  lanes={lanes}
                  deepest={deepest}
                  here={isAt(one.spot, here)}
                  onGo={() => onGo(one.spot)}
                />
              ))}
          </div>
        </section>
      ))}
      <p className="text-sm text-soft">
        Each lane by its own drifts, and by those beside it for as much as they can say of it. What is kept of
        a lane is carried to the level of the day.
      </p>
      {onForget && (
        <Button className="w-full" onClick={onForget}>
          Forget what was kept of the {laneName(here.lane, lanes)}, {stanceName(here.stance)}
        </Button>
      )}
      <Button className="w-full" onClick={onClose}>
        Back to the keys
      </Button>
    </Sheet>
  );
}

function Place({
  spot,
  belief,
  kept,
  asking,
  fished,
  lanes,
  deepest,
  here,
  onGo,
}: {
  spot: Spot;
  lanes: number | undefined;
  belief: Belief | null;
  kept: Bottom | null;
  /** It is being worked out. */
  asking: boolean;
  fished: number;
  deepest: number;
  here: boolean;
  onGo: () => void;
}) {
  const { show } = useUnits();
  const depth = belief?.p50 ?? kept?.depth_m;
  return (
    <button
      type="button"
      aria-current={here}
      className={`w-[6.5rem] overflow-hidden rounded-xl border-2 bg-paper text-left leading-tight ${here ? "border-ink" : "border-line"}`}
      onClick={onGo}
    >
      <Section belief={belief} depth={depth} deepest={deepest} />
      <span className="block px-2 pt-1 font-semibold">{laneName(spot.lane, lanes)}</span>
      <span className="block px-2 text-xl font-bold">
        {depth !== undefined ? show(depth, "m") : asking ? "…" : "not known"}
      </span>
      <span className="block px-2 text-sm text-soft">
        {belief
          ? `${show(belief.p10, "m")} to ${show(belief.p90, "m")}`
          : kept
            ? `± ${show(kept.depth_sd_m, "m")}`
            : ""}
      </span>
      <span className="block px-2 pb-1 text-sm text-soft">
        {fished === 1 ? "1 drift" : `${fished} drifts`}
        {kept && ", kept"}
      </span>
    </button>
  );
}

/** Water over the bed to scale with the other lanes; the bed as soft as it is unsure. */
function Section({
  belief,
  depth,
  deepest,
}: {
  belief: Belief | null;
  depth: number | undefined;
  deepest: number;
}) {
  const id = useId();
  const px = (metres: number) => (deepest > 0 ? (metres / deepest) * DEEPEST_PX : 0);
  const [top, low] = [belief?.p10 ?? depth ?? 0, belief?.p90 ?? depth ?? 0];
  return (
    <svg aria-hidden width="100%" height={DEEPEST_PX + 10} preserveAspectRatio="none">
      <defs>
        <linearGradient id={id} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--water-1)" />
          <stop offset="1" stopColor="var(--bed-dark)" />
        </linearGradient>
      </defs>
      <rect width="100%" height={DEEPEST_PX + 10} fill="var(--bed-dark)" />
      <rect width="100%" height={px(top)} fill="var(--water-1)" />
      <rect width="100%" y={px(top)} height={px(low - top)} fill={`url(#${id})`} />
      {depth !== undefined && (
        <line x1="0" x2="100%" y1={px(depth)} y2={px(depth)} stroke="var(--ink)" strokeWidth={1.5} />
      )}
    </svg>
  );
}
