import { useState } from "react";
import type { Reading, ReadingIn, Situation } from "../../api/client";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { useHeld } from "../../local/logbook";
import { useRigsAhead } from "../../queries/rigs";
import { useColumn } from "../../queries/water";
import { Button, Cautions, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";
import { BeatRules } from "../setup/BeatRules";
import { LieSheet } from "../setup/LieSheet";
import { type Base, baseOf, carriedFrom, idFor, speedOf } from "./base";
import { FirstReading } from "./FirstReading";
import { HeldNote, troubleOf } from "./HeldNote";
import { RatingPlot } from "./RatingPlot";
import { ReadColumn } from "./ReadColumn";
import { ReadingForm } from "./ReadingForm";
import { useReread, withoutTime } from "./reread";
import { SignsPanel } from "./SignsPanel";
import { SoundSheet } from "./SoundSheet";

export const ReadScreen = () => (
  <WithLie
    unread={(at) => <FirstReading key={at.lie.id} {...at} />}
    afresh={({ lie, beat, again, situation, reckoned }) =>
      lie.reading && lie.situation ? (
        <Read
          key={lie.id}
          {...{ lie, beat, again }}
          situation={lie.situation}
          drawn={reckoned ? situation : null}
          reading={lie.reading}
        />
      ) : (
        <FirstReading key={lie.id} lie={lie} beat={beat} drawn={reckoned ? situation : null} />
      )
    }
  >
    {(at) => at.lie.reading && <Read key={at.lie.id} {...at} drawn={at.situation} reading={at.lie.reading} />}
  </WithLie>
);

interface Props extends Omit<AtLie, "heard"> {
  reading: Reading;
  /** What the column is drawn of; null where it was read since and this device cannot draw it. */
  drawn: Situation | null;
}

function Read({ lie, beat, situation, drawn, reading, again }: Props) {
  const column = useColumn(drawn ?? situation);
  useRigsAhead(lie.id, again ? drawn : null);
  const { show } = useUnits();
  const { water } = drawn ?? situation;
  const [changing, setChanging] = useState(false);
  const carried = !again && lie.stands_on === "flow" ? lie.today : null;
  const from = carriedFrom(lie);
  const held = useHeld(lie); // what was read since stands before it
  const written: Base = held ? withoutTime(held.body) : baseOf(lie, situation, reading);
  const {
    depth_m,
    depth_sd_m: _sd,
    speed: _,
    lie_id,
    feeding = null,
    found = [],
    cover = [],
    under_line_m_s = null,
    ...rest
  } = written;
  const [sounding, setSounding] = useState(false);
  const store = useReread(lie, () => ({ id: idFor(lie, reading), body: baseOf(lie, situation, reading) }));
  const save = (change: Partial<ReadingIn>) => store.mutate(change);
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-[1.15fr_1fr]">
      <div>
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl font-bold">
          {again ? (
            <>{show(again.reading.depth_m, "m")} deep, as read just now</>
          ) : (
            <>
              {show(water.depth_m, "m")} deep ± {show(water.depth_sd_m ?? 0, "m")}
              {carried && " at today's flow"}, top at {show(water.surface_speed_m_s, "m/s")}
              {column.data && <>, where they feed {show(column.data.zone_speed_m_s, "m/s")}</>}
            </>
          )}
        </h1>
        {held && (again || held.refused) && <HeldNote held={held} drawn={drawn !== null} />}
        {!drawn ? null : column.data ? (
          <ReadColumn column={column.data} />
        ) : column.isError ? (
          <Trouble error={column.error} retry={() => column.refetch()} />
        ) : (
          <Working what="Drawing the column" here />
        )}
        <Button look="main" className="mt-3 w-full text-lg" onClick={() => setSounding(true)}>
          Sound it
        </Button>
        {sounding && (
          <SoundSheet
            lie={lie.name}
            depth={depth_m}
            onClose={() => setSounding(false)}
            onSave={(depth, how) => {
              setSounding(false);
              save({ depth_m: depth, depth_how: how });
            }}
          />
        )}
        {drawn && column.data && (
          <p className="mt-2 text-soft">
            Mean speed {show(column.data.mean_speed_m_s, "m/s")}, {Math.round(100 * column.data.mean_ratio)} %
            of the surface's: {column.data.profile_words}, over {lie.bed}.
            {column.data.shallow && " Thin water over these stones: speeds near the bed are guesses."}
          </p>
        )}
        {drawn && column.data && (
          <p className="mt-1 text-soft">
            Fish see a fly {percent(column.data.reaction_share)} as far off as in clear water. At{" "}
            {show(water.temperature_c ?? 0, "°C")} they come for it within a lane{" "}
            {show(column.data.lane_m, "m", 1)} wide; they see you through a window{" "}
            {show(column.data.window_m, "m", 1)} across.
          </p>
        )}
        {carried && (
          <p className="mt-2">
            {from ? (
              <>
                Read as {show(from.depth_m, "m")} today at {show(from.flow_m3_s, "m³/s")}; the river now runs{" "}
                {show(carried.flow_m3_s, "m³/s")}, and it is carried on with it. Read it again.
              </>
            ) : (
              <>
                Not read today: carried to {show(carried.flow_m3_s, "m³/s")} from {carried.seen.length}{" "}
                {carried.seen.length === 1 ? "reading" : "readings"} at other flows. Read it now, and it
                learns.
              </>
            )}
          </p>
        )}
        {lie.today && lie.today.seen.length > 1 && <RatingPlot carried={lie.today} />}
      </div>
      <div className="space-y-4">
        {again ? (
          <Cautions cautions={again.cautions} />
        ) : (
          column.data && <Cautions cautions={column.data.cautions} />
        )}
        <ReadingForm
          title={again ? "Today, kept here" : "Today"}
          depth={depth_m}
          {...speedOf(written)}
          rest={{ ...rest, feeding, found, cover, under_line_m_s }}
          onChange={save}
          error={troubleOf(store.error, held)}
        />
        <SignsPanel
          undertow={rest.undertow ?? false}
          refusing={rest.refusing ?? false}
          spawning={rest.spawning ?? false}
          feeding={feeding}
          rises={rest.rises}
          found={found}
          column={column.data}
          onChange={save}
        />
        <BeatRules beat={beat} />
        <Button className="w-full" onClick={() => setChanging(true)}>
          Change what {lie.name} is
        </Button>
        {changing && <LieSheet beat={beat} lie={lie} onClose={() => setChanging(false)} />}
      </div>
    </div>
  );
}
