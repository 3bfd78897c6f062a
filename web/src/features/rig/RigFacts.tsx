/** What the core says of one rig: reasons, figures with their why, criteria. Drawn anew when it says something else, not at every step of a slider. */
import { Check, X } from "lucide-react";
import { memo } from "react";
import type { Ranked } from "../../api/client";
import { pointFly } from "../../app/rigs";
import { Figure } from "../../ui/figure";
import { Panel } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";

const SHOWN_FOR = 3;
const SHOWN_AGAINST = 1;

/** Three reasons for and the strongest against; the rest is folded. They come strongest first. */
interface ReasonsProps {
  reasons: Ranked["reasons"];
  /** What they are for or against, where more than one thing on the page has reasons. */
  of?: string;
}

export const Reasons = memo(({ reasons, of = "" }: ReasonsProps) => {
  const pro = reasons.filter((reason) => reason.for);
  const con = reasons.filter((reason) => !reason.for);
  const rest = [...pro.slice(SHOWN_FOR), ...con.slice(SHOWN_AGAINST)];
  return (
    <div>
      <div className={`grid gap-x-6 gap-y-1 ${of ? "" : "lg:grid-cols-2"}`}>
        <Said label={`for${of}`} reasons={pro.slice(0, SHOWN_FOR)} />
        <Said label={`against${of}`} reasons={con.slice(0, SHOWN_AGAINST)} />
      </div>
      {rest.length > 0 && (
        <details className="mt-1">
          <summary className="min-h-11 cursor-pointer py-2.5 text-soft">
            {rest.length === 1 ? "One reason more" : `${rest.length} reasons more`}
          </summary>
          <Said label={`more reasons${of}`} reasons={rest} />
        </details>
      )}
    </div>
  );
});

function Said({ label, reasons }: { label: string; reasons: Ranked["reasons"] }) {
  const { say } = useUnits();
  return (
    <ul className="space-y-1" aria-label={label}>
      {reasons.map((reason) => (
        <li key={reason.text} className="flex gap-2">
          {reason.for ? (
            <Check aria-label="for" size={20} className="mt-0.5 shrink-0 text-mark" />
          ) : (
            <X aria-label="against" size={20} className="mt-0.5 shrink-0 text-caution" />
          )}
          <span>{say(reason.text)}</span>
        </li>
      ))}
    </ul>
  );
}

export const Figures = memo(({ ranked }: { ranked: Ranked }) => {
  const { show } = useUnits();
  const { numbers, setup } = ranked;
  if (!numbers || !setup) return null;
  const why = (number: string) => ranked.why.find((one) => one.number === number);
  const low = Math.round(100 * ranked.zone_share_low);
  const high = Math.round(100 * ranked.zone_share_high);
  return (
    <div className="-mx-2 mt-2 grid grid-cols-[repeat(auto-fit,minmax(min(100%,8rem),1fr))]">
      <Figure
        label="In the zone"
        value={ranked.first_setting ? `about ${percent(ranked.zone_share)}` : `${low}–${high} %`}
        why={why("zone_share")}
      />
      <Figure
        label="Fly settles at"
        value={numbers.grounded ? "on the bed" : show(numbers.fly_depth_m, "m")}
        why={why("fly_depth")}
      />
      <Figure
        label="Land above the fish"
        value={setup.lead_m === null ? "—" : show(setup.lead_m, "m", 1)}
        why={why("lead")}
      />
      <Figure
        label={setup.tip_pace === null ? "Float to bubbles" : "Tip to bubbles"}
        value={percent(numbers.pace)}
        why={why("pace")}
      />
      <Figure label="Hangs up" value={percent(numbers.hang_chance)} why={why("hang_chance")} />
      {numbers.carry === null ? (
        <Figure label="Drift to fish" value={show(numbers.drift_m, "m", 1)} why={why("drift_m")} />
      ) : (
        <Figure label="Carries" value={`${numbers.carry.toFixed(1)} ×`} why={why("carry")} />
      )}
      <p className="col-span-full px-2 pt-1 text-sm text-soft">
        {pointFly(setup)}
        {setup.dropper_form &&
          ` · ${setup.dropper_form}, size ${setup.dropper_hook}, ${show(setup.dropper_spacing_m ?? 0, "m")} above it`}
        {setup.float && ` · ${setup.float}`} · {setup.tippet_x}X
        {setup.shot_g > 0 && ` · shot ${show(setup.shot_g, "g", 1)}`}
      </p>
    </div>
  );
});

export const CRITERIA: Record<string, string> = {
  zone: "time in the zone",
  carry: "carrying",
  bed: "clear of the bed",
  pace: "pace of the fly",
  hold: "keeps its lane",
  reach: "reach",
  wind: "wind",
  stealth: "stealth",
  take: "seeing the take",
  level: "feeding level",
  casting: "room to cast",
  fly: "the fly itself",
  rules: "rules of the beat",
};

export const Criteria = memo(({ ranked }: { ranked: Ranked }) => {
  const { say } = useUnits();
  if (ranked.criteria.length === 0) return null;
  return (
    <Panel title={`How ${ranked.name.toLowerCase()} scores ${ranked.score.toFixed(2)}`}>
      <dl className="space-y-1.5">
        {ranked.criteria.map((criterion) => (
          <div
            key={criterion.name}
            className="grid grid-cols-[minmax(0,8.5rem)_1fr_2.6rem] items-center gap-2"
            title={say(criterion.text)}
          >
            <dt className="text-sm">{CRITERIA[criterion.name] ?? criterion.name}</dt>
            <dd className="contents">
              <span aria-hidden className="h-2.5 rounded-full bg-line">
                <span
                  className="block h-full rounded-full bg-mark"
                  style={{ width: `${100 * criterion.value}%` }}
                />
              </span>
              <span className="text-right text-sm">{criterion.value.toFixed(2)}</span>
            </dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-sm text-soft">
        The score is their product, with the zone counted at the power {ranked.zone_weight}.
      </p>
    </Panel>
  );
});
