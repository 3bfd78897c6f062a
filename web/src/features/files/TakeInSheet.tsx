import { useRef, useState } from "react";
import {
  type HowLog,
  isOver,
  type Job,
  type LogFormat,
  stopJob,
  useJob,
  useSendLog,
} from "../../queries/imports";
import { useBeats } from "../../queries/places";
import { Choice } from "../../ui/choosing";
import { Button, Trouble } from "../../ui/parts";
import { Progress } from "../../ui/progress";
import { Sheet } from "../../ui/sheet";
import { several } from "../ledger/OutingLine";

const THEN = ["beats", "today", "outings", "learn", "rivers", "box"] as const;

/** What the rows of a log are called. */
const NAMES: Record<string, [string, string]> = {
  river: ["river", "rivers"],
  gauge: ["gauge", "gauges"],
  gauge_value: ["value of a gauge", "values of gauges"],
  beat: ["beat", "beats"],
  box_item: ["kind in the box", "kinds in the box"],
  lie: ["lie", "lies"],
  reading: ["reading", "readings"],
  sounding: ["sounding", "soundings"],
  outing: ["outing", "outings"],
  stop: ["stay at a lie", "stays at a lie"],
  setting: ["setting", "settings"],
  drift: ["drift", "drifts"],
  catch: ["fish", "fish"],
  note: ["note", "notes"],
};

/** What a column may be. */
const FIELDS = [
  ["time", "time with its day"],
  ["date", "day"],
  ["clock", "hour"],
  ["lie", "lie"],
  ["rig", "rig"],
  ["point_bead_mm", "bead"],
  ["depth_setting_m", "depth set to"],
  ["tippet_x", "tippet"],
  ["depth_m", "depth of the water"],
  ["surface_speed_m_s", "speed at the surface"],
  ["clarity_m", "clarity"],
  ["temperature_c", "water temperature"],
  ["outcome", "how the drift ended"],
  ["pace", "pace"],
  ["lane", "lane"],
  ["stance", "stance"],
  ["direction", "up or down"],
  ["dried", "dry dried"],
  ["weed", "weed on the hook"],
  ["lost", "which fly was lost"],
  ["species", "fish"],
  ["length_mm", "length of the fish"],
  ["length_how", "length by eye or measured"],
  ["fly", "which fly took"],
  ["phase", "when it took"],
  ["condition", "how the fish was"],
  ["point_fly", "point fly"],
  ["point_hook", "hook"],
  ["drift_id", "id of the drift"],
] as const;

const RIGS = [
  ["euro", "euro"],
  ["indicator", "indicator"],
  ["dry_dropper", "dry-dropper"],
] as const;

const formatOf = (name: string): LogFormat =>
  /\.json$/i.test(name) ? "json" : /\.gpx$/i.test(name) ? "gpx" : "csv";

function Counts({ counts, none }: { counts: Record<string, number>; none: string }) {
  const parts = Object.entries(NAMES).flatMap(([table, [one, many]]) =>
    counts[table] ? [several(counts[table], one, many)] : [],
  );
  return <>{parts.length > 0 ? parts.join(", ") : none}</>;
}

/** A log from a file: what would come is said first, and nothing is kept until it is wanted. */
export function TakeInSheet({ onClose }: { onClose: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  const beats = useBeats().data ?? [];
  const [file, setFile] = useState<File | null>(null);
  const [how, setHow] = useState<HowLog>({ format: "json", dry: true });
  const send = useSendLog();
  const job = useJob(send.data?.id ?? null, THEN);
  const going = send.isPending || (send.data !== undefined && !isOver(job));
  const ask = (chosen: File, next: HowLog) => {
    setHow(next);
    send.mutate({ file: chosen, how: next });
  };
  const choose = (chosen: File) => {
    const format = formatOf(chosen.name);
    setFile(chosen);
    ask(chosen, {
      format,
      dry: true,
      ...(format === "json" ? {} : { beat_id: how.beat_id ?? beats[0]?.id }),
    });
  };
  const result = isOver(job) && job?.state === "done" ? job.result : null;
  const asks = result !== null && result !== undefined && result.columns.length > 0;
  const seen = result && !asks && how.dry;
  const taken = result && !asks && !how.dry;
  return (
    <Sheet title="Take a log in" open onClose={onClose}>
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-label="file of a log"
        accept=".json,.csv,.tsv,.txt,.gpx"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) choose(chosen);
          event.target.value = "";
        }}
      />
      {!taken && (
        <p className="text-soft">
          Everything as JSON (from here or from another account), a table of drifts as CSV, or waypoints as
          GPX, which become lies. First it is only looked at.
        </p>
      )}
      {file && <p className="font-semibold break-words">{file.name}</p>}
      {file && how.format !== "json" && beats.length === 0 && (
        <p className="font-semibold">Drifts and lies are of a beat: set up a river with one first.</p>
      )}
      {file && how.format !== "json" && !taken && beats.length > 0 && (
        <label className="block">
          <span className="block text-sm text-soft">On which beat it was</span>
          <select
            className="mt-0.5 h-14 w-full rounded-xl border border-line bg-paper px-3"
            value={how.beat_id ?? ""}
            onChange={(event) => ask(file, { ...how, dry: true, beat_id: event.target.value })}
          >
            {beats.map((beat) => (
              <option key={beat.id} value={beat.id}>
                {beat.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {going && (
        <Progress
          what="taking in the file"
          share={job?.share ?? 0}
          count={`${job?.rows ?? 0} rows`}
          onStop={() => send.data && void stopJob(send.data.id)}
        />
      )}
      {send.isError && <Trouble error={send.error} />}
      {asks && file && result && (
        <Columns
          headers={result.columns}
          guess={result.guess}
          onDone={(columns, rig) => ask(file, { ...how, dry: true, columns, rig })}
        />
      )}
      {!going && <Ended job={job} dry={how.dry} asks={asks} />}
      {!going && how.columns && how.dry && file && (
        <Button className="w-full" onClick={() => ask(file, { ...how, columns: undefined })}>
          Choose the columns again
        </Button>
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>{taken ? "Done" : "Leave it"}</Button>
        {seen && file && Object.keys(result.new).length > 0 ? (
          <Button look="main" onClick={() => ask(file, { ...how, dry: false })}>
            Take it in
          </Button>
        ) : (
          !taken && (
            <Button disabled={going} onClick={() => input.current?.click()}>
              {file ? "Another file" : "Choose a file"}
            </Button>
          )
        )}
      </div>
    </Sheet>
  );
}

/** How it ended: what would come, what came, or why nothing did. */
function Ended({ job, dry, asks }: { job: Job | undefined; dry: boolean; asks: boolean }) {
  if (!job || asks) return null;
  if (job.state !== "done")
    return (
      <p
        role={job.state === "failed" ? "alert" : "status"}
        className={`break-words ${job.state === "failed" ? "font-semibold text-stop" : "text-soft"}`}
      >
        {job.message}
      </p>
    );
  if (!job.result) return null;
  const { new: fresh, there, passed } = job.result;
  return (
    <div role="status" className="space-y-1">
      <p className="font-semibold">
        {dry ? "New in it: " : "Taken in: "}
        <Counts counts={fresh} none="nothing" />
      </p>
      {Object.keys(there).length > 0 && (
        <p className="text-soft">
          There already, and left as it is: <Counts counts={there} none="" />
        </p>
      )}
      {Object.keys(passed).length > 0 && (
        <p className="text-soft">In the file and not taken in: {Object.keys(passed).join(", ")}</p>
      )}
      {dry && fresh.drift !== undefined && (
        <p className="text-soft">
          A row is a drift. A list of fish alone says nothing of what was fished in vain: rates from it are
          too high.
        </p>
      )}
    </div>
  );
}

/** Which column of a table is what. */
function Columns({
  headers,
  guess,
  onDone,
}: {
  headers: string[];
  guess: Record<string, string>;
  onDone: (columns: Record<string, string>, rig: HowLog["rig"]) => void;
}) {
  const [fields, setFields] = useState<Record<string, string>>(() =>
    Object.fromEntries(Object.entries(guess).map(([field, header]) => [header, field])),
  );
  const [rig, setRig] = useState<NonNullable<HowLog["rig"]>>("euro");
  const chosen = Object.entries(fields).filter(([, field]) => field !== "");
  const told = new Set(chosen.map(([, field]) => field));
  return (
    <div className="space-y-2">
      <p className="font-semibold">What is in which column?</p>
      <p className="text-sm text-soft">
        A unit in the header, as in Depth [ft] or Length (in), is minded; without one it is metres,
        millimetres for beads and fish, °C.
      </p>
      {headers.map((header) => (
        <label key={header} className="grid grid-cols-2 items-center gap-2">
          <span className="min-w-0 break-words">{header || "(no name)"}</span>
          <select
            className="h-12 min-w-0 rounded-xl border border-line bg-paper px-2"
            value={fields[header] ?? ""}
            onChange={(event) => setFields({ ...fields, [header]: event.target.value })}
          >
            <option value="">left out</option>
            {FIELDS.map(([field, name]) => (
              <option key={field} value={field} disabled={told.has(field) && fields[header] !== field}>
                {name}
              </option>
            ))}
          </select>
        </label>
      ))}
      {!told.has("rig") && <Choice label="Fished with" value={rig} options={RIGS} onChange={setRig} />}
      <Button
        look="main"
        className="w-full"
        disabled={!(told.has("time") || told.has("date")) || !told.has("lie")}
        onClick={() => onDone(Object.fromEntries(chosen.map(([header, field]) => [field, header])), rig)}
      >
        Look before it is taken in
      </Button>
    </div>
  );
}
