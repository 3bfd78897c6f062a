import { memo } from "react";
import type { Ranked, RigKind } from "../../api/client";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";
import { CRITERIA } from "./RigFacts";

interface Props {
  /** As they were ranked, the chosen one as it is set now. */
  shown: Ranked[];
  ranked: Ranked[];
  chosen: RigKind;
  onChoose: (rig: RigKind) => void;
}

/** The rigs side by side, best first; one is chosen. */
export const Cards = memo(({ shown, ranked, chosen, onChoose }: Props) => {
  const { show, say, bead: beadOf } = useUnits();
  return (
    <div
      className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(5.5rem,1fr))] gap-2"
      role="radiogroup"
      aria-label="Rig"
    >
      {shown.map((one, place) => (
        // biome-ignore lint/a11y/useSemanticElements: a card with several lines is no input
        <button
          key={one.rig}
          type="button"
          role="radio"
          aria-checked={one.rig === chosen}
          onClick={() => onChoose(one.rig)}
          className={`flex min-h-14 flex-col rounded-xl border-2 p-2 text-left leading-tight lg:p-3 ${one.rig === chosen ? "border-ink bg-paper" : "border-line"}`}
        >
          <span className="block font-semibold">
            <span className="max-lg:sr-only">{place + 1}. </span>
            {one.name}
          </span>
          <span className="block text-sm text-soft">
            {one.setup
              ? `${beadOf(one.setup.point_bead_mm)} at ${show(one.setup.depth_setting_m, "m")}`
              : `not here: ${say(one.reasons[0]?.text ?? "")}`}
          </span>
          <span className="block text-sm">{one.setup ? `${percent(one.zone_share)} in the zone` : ""}</span>
          {ranked[place]?.loses_on && (
            <span className="block text-sm text-soft">
              loses on {CRITERIA[ranked[place].loses_on] ?? ranked[place].loses_on}
            </span>
          )}
        </button>
      ))}
    </div>
  );
});
