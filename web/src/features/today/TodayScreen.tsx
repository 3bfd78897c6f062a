import { useEffect, useState } from "react";
import { useLocation, useParams } from "wouter";
import type { Beat, Today } from "../../api/client";
import { address } from "../../app/addresses";
import { useBeats, useToday } from "../../queries/places";
import { brought } from "../../ui/brought";
import { Button, Cautions, Trouble, Working } from "../../ui/parts";
import { bringSheets } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { figure, weekday } from "../../units/units";
import { atBeat, LogHere } from "../learn/LogHere";
import { BeatRules } from "../setup/BeatRules";
import { SharedWithMe } from "../sharing/SharedWithMe";
import { DayAhead } from "./DayAhead";
import { Hydrograph } from "./Hydrograph";
import { PastFile } from "./PastFile";
import { SkyNow } from "./SkyNow";
import { TakeAlong } from "./TakeAlong";
import { WorkingOrder } from "./WorkingOrder";

const sheets = brought(() => import("./sheets"));
const BeatSheet = sheets.part("BeatSheet");
const LieSheet = sheets.part("LieSheet");
const ShareSheet = sheets.part("ShareSheet");

export function TodayScreen() {
  const { beatId = "" } = useParams();
  const beats = useBeats();
  const today = useToday(beatId);
  const beat = beats.data?.find((one) => one.id === beatId);
  if (beats.isError && !beats.data) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  if (beats.data && !beat)
    return <Trouble error={new Error("There is no such beat of yours. Pick one from the ribbon.")} />;
  if (today.isError && !today.data) return <Trouble error={today.error} retry={() => today.refetch()} />;
  if (!beat || !today.data) return <Working what="Asking the gauge" />;
  return <Page beat={beat} today={today.data} />;
}

/** How old the gauge's word is, in words. */
function age(hours: number): string {
  if (hours < 1) return `${Math.max(1, Math.round(60 * hours))} min ago`;
  if (hours < 48) return `${Math.round(hours)} h ago`;
  return `${Math.round(hours / 24)} days ago`;
}

/** What was heard of a gauge last, and why it is no newer. */
function heard(gauge: NonNullable<Today["gauge"]>, flow: Today["flow"]): string {
  const nothing = gauge.unasked ? "being asked for the first time" : "no value yet";
  const last = flow ? `last value ${age(flow.age_h)}, ${flow.worth}` : nothing;
  const trouble = gauge.trouble ? ` At the last try ${gauge.trouble}; what it said before stands.` : "";
  return `Gauge ${gauge.name}: ${last}.${trouble}`;
}

function Page({ beat, today }: { beat: Beat; today: Today }) {
  const { show, say, clock } = useUnits();
  const { flow, gauge, normal, recession } = today;
  const [sheet, setSheet] = useState<"lie" | "beat" | "another" | "share" | null>(null);
  const [, navigate] = useLocation();
  useEffect(() => {
    void bringSheets();
    void sheets.bring();
  }, []);
  const when = (at: string) => `${weekday(at)} ${clock(at)}`;
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-[1.5fr_1fr]">
      <div className="min-w-0">
        <p className="text-soft">
          <span className="font-semibold text-ink">{beat.name}</span> · {beat.river}
        </p>
        <h1 className="text-xl leading-snug font-bold sm:text-2xl">{say(today.sentence)}</h1>
        <div className="mt-2">
          <Cautions cautions={today.cautions} />
        </div>
        <DayAhead today={today} />
        <SkyNow today={today} />
        {today.hydrograph.length > 1 && <Hydrograph today={today} />}
        <dl className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(min(100%,9rem),1fr))] gap-x-4 gap-y-2">
          <Fact
            name="Flow"
            value={flow && show(flow.m3_s, "m³/s")}
            note={
              normal
                ? `above ${Math.round(100 * normal.share)} % of such days in ${normal.years} years`
                : flow && `what is normal needs ${today.years_lacking} more years`
            }
          />
          <Fact
            name="Going"
            value={today.trend?.direction}
            note={today.trend && `${figure(100 * today.trend.per_h, 1)} % an hour`}
          />
          <Fact
            name="Water"
            value={today.temperature_c !== null && show(today.temperature_c, "°C")}
            note={
              today.warming_c === null
                ? "at the gauge"
                : `${today.warming_c >= 0 ? "up" : "down"} ${show(Math.abs(today.warming_c), "°C apart")} on the day before`
            }
          />
          <Fact
            name="See your boots to"
            value={today.clarity_m !== null && show(today.clarity_m, "m", 1)}
            note="by its turbidity"
          />
        </dl>
        {recession && (
          <p className="mt-2">
            Down to {show(recession.target_m3_s, "m³/s")}, the upper end of normal, about{" "}
            <b>{when(recession.reached_at)}</b> if it goes on falling (not before {when(recession.earliest)}
            {recession.latest ? `, perhaps ${when(recession.latest)}` : ", perhaps not at all"}).
          </p>
        )}
        <p
          className={`mt-2 text-sm ${gauge?.trouble ? "font-semibold text-caution" : "text-soft"}`}
          role="status"
        >
          {gauge ? heard(gauge, flow) : "This river has no gauge here."}
        </p>
        {gauge && <PastFile gauge={gauge.id} />}
      </div>
      <div className="min-w-0 space-y-4">
        <WorkingOrder key={beat.id} beat={beat} />
        <TakeAlong beat={beat} />
        <SharedWithMe />
        {today.approach && (
          <p>
            Unseen from {show(today.approach.standing_m, "m", 1)} standing,{" "}
            {show(today.approach.wading_m, "m", 1)} wading, {show(today.approach.kneeling_m, "m", 1)} on your
            knees.
          </p>
        )}
        <BeatRules beat={beat} />
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,7.5rem),1fr))] gap-2">
          <Button className="px-1" onClick={() => setSheet("lie")}>
            Add a lie
          </Button>
          <Button className="px-1" onClick={() => setSheet("beat")}>
            Change beat
          </Button>
          <Button className="px-1" onClick={() => setSheet("another")}>
            Add a beat
          </Button>
          <Button className="px-1" onClick={() => navigate("/rivers")}>
            Rivers
          </Button>
        </div>
        <Button className="w-full" onClick={() => setSheet("share")}>
          Share {beat.name}
        </Button>
        <LogHere place={atBeat(beat)} />
        {sheet === "share" && (
          <ShareSheet name={beat.name} thing={{ beat_id: beat.id }} onClose={() => setSheet(null)} />
        )}
        {sheet === "lie" && <LieSheet beat={beat} lie={null} onClose={() => setSheet(null)} />}
        {(sheet === "beat" || sheet === "another") && (
          <BeatSheet
            beat={sheet === "beat" ? beat : null}
            like={beat}
            onRetired={() => navigate("/rivers")}
            onClose={(id) => {
              setSheet(null);
              navigate(address.beat(id));
            }}
          />
        )}
      </div>
    </div>
  );
}

function Fact({
  name,
  value,
  note,
}: {
  name: string;
  value: string | false | null | undefined;
  note?: string | null | undefined;
}) {
  return (
    <div>
      <dt className="text-sm text-soft">{name}</dt>
      <dd className="text-xl font-semibold">{value || "not known"}</dd>
      {value && note && <dd className="text-sm text-soft">{note}</dd>}
    </div>
  );
}
