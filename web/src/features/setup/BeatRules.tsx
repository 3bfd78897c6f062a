import type { Beat } from "../../api/client";

const FLIES = ["", "one fly", "two flies", "three flies"];
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** A day of the year as people write it; as it came where it is none. */
const day = (text: string): string => {
  const [month, date] = text.split("-").map(Number);
  return `${date} ${MONTHS[(month ?? 0) - 1] ?? text}`;
};

/** The rules of a beat: those that bind a rig, as they are set, and the fishery's own words. */
export function BeatRules({ beat }: { beat: Pick<Beat, "rules" | "rules_text" | "wading_allowed"> }) {
  const { rules } = beat;
  const set = [
    FLIES[rules.max_flies ?? 2],
    rules.barbless ? "barbless" : "barbs allowed",
    rules.added_weight ? "shot allowed" : "no shot",
    rules.lead ? "lead allowed" : "no lead",
    beat.wading_allowed ? "wading allowed" : "no wading",
    rules.release ? "all fish go back" : "fish may be kept",
    rules.season_first && rules.season_last && `open ${day(rules.season_first)} to ${day(rules.season_last)}`,
  ].filter(Boolean);
  return (
    <div className="text-sm text-soft">
      <p>
        <b>Rules of the beat, as set:</b> {set.join(", ")}.
      </p>
      {beat.rules_text ? (
        <p>
          <b>The fishery's words:</b> {beat.rules_text}
        </p>
      ) : (
        <p>The fishery's own words are not entered: ask there.</p>
      )}
    </div>
  );
}
