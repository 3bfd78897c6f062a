import { type ReactNode, useDeferredValue, useState } from "react";
import { Link, useParams } from "wouter";
import type { Beat, Ledger, OutingSummary } from "../../api/client";
import { address } from "../../app/addresses";
import { useFrom } from "../../app/NoSignal";
import { pointFly, useSetting } from "../../app/rigs";
import { useKeptAngler } from "../../local/angler";
import { linesOf, useAsCorrected, useLedgerHere, useWaitingOutings } from "../../local/ledger";
import { canGoOn, useAsWritten } from "../../local/logbook";
import { useFound, useLedger, useOutings, useStrips } from "../../queries/log";
import { useBeats } from "../../queries/places";
import { useOnline } from "../../ui/online";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { LineSheet } from "../bank/LineSheet";
import { changeOuting } from "../bank/useBank";
import { SaveSheet } from "../files/SaveSheet";
import { TakeInSheet } from "../files/TakeInSheet";
import { LogTabs } from "../learn/LogTabs";
import { ShareSheet } from "../sharing/ShareSheet";
import { Facets } from "./Facets";
import { MiniStrip } from "./MiniStrip";
import { Notes } from "./Notes";
import { counts, date, OutingLine, several } from "./OutingLine";
import { OutingStrip } from "./OutingStrip";
import { Season } from "./Season";
import { Story } from "./Story";

const OUTCOME = {
  clean: "clean",
  tick: "tick",
  hung: "hung up",
  missed: "missed a take",
  fish: "fish",
  lost_fly: "lost the fly",
} as const;
const LOST = { point: "lost the point", dropper: "lost the upper fly", both: "lost both flies" } as const;
/** So many outings are drawn small at once. */
const STRIPS = 50;

const PHASE = { drop: "on the drop", drift: "in the dead drift", swing: "on the swing" } as const;

export function LedgerList() {
  const [asked, setAsked] = useState("");
  const [sheet, setSheet] = useState<"save" | "take in" | null>(null);
  const find = useDeferredValue(asked.trim());
  const outings = useOutings();
  const online = useOnline();
  const angler = useKeptAngler()?.id;
  const told = useAsWritten(angler, outings.data ?? []);
  // what waits here is shown as it stands here
  const beats = useBeats();
  const waiting = useWaitingOutings(angler, beats.data);
  const here = new Set(waiting.map((one) => one.id));
  const shown = [...waiting, ...told.filter((one) => !here.has(one.id))].sort(
    (a, b) => Date.parse(b.started_at) - Date.parse(a.started_at),
  );
  const silent = outings.isError || outings.fetchStatus === "paused";
  const from = useFrom(outings.dataUpdatedAt);
  if (outings.isError && shown.length === 0)
    return <Trouble error={outings.error} retry={() => outings.refetch()} />;
  if (outings.isPending && shown.length === 0) return <Working what="Opening the ledger" />;
  return (
    <div className="mx-auto max-w-3xl">
      <LogTabs />
      <h1 className="py-2 text-2xl font-bold">Ledger</h1>
      {online && (shown.length > 0 || asked !== "") && (
        <input
          type="search"
          aria-label="Find an outing"
          placeholder="Find: a lie, a fly, a month, low, fish, blank"
          className="mb-2 min-h-14 w-full rounded-xl border border-line bg-paper px-4 text-base"
          maxLength={200}
          value={asked}
          onChange={(event) => setAsked(event.target.value)}
        />
      )}
      {online && shown.length > 0 && <Facets asked={asked} onAsk={setAsked} beats={beats.data ?? []} />}
      {online && (
        <div className="mb-2 flex flex-wrap gap-2">
          {shown.length > 0 && (
            <Button className="grow" onClick={() => setSheet("save")}>
              {find === "" ? "Save them all" : "Save what fits"}
            </Button>
          )}
          <Button className="grow" onClick={() => setSheet("take in")}>
            Take a log in
          </Button>
        </div>
      )}
      {sheet === "save" && (
        <SaveSheet
          what={find === "" ? "all outings" : `outings with ${find}`}
          which={{ find }}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === "take in" && <TakeInSheet onClose={() => setSheet(null)} />}
      {online && find !== "" ? (
        <Found find={find} />
      ) : (
        <>
          {silent && (
            <p className="pb-2 text-soft">
              {online ? "No answer from the service: " : "Without signal: "}
              {outings.data
                ? `the newest as of ${from}, with what was written on this device since.`
                : "what is on this device and not sent yet."}
            </p>
          )}
          {shown.length === 0 && (
            <p className="text-soft">
              Nothing yet. Start an outing on the Log screen and tap each drift; it is written here.
            </p>
          )}
          {online && shown.length > 0 && <Season />}
          <OutingRows outings={shown} />
          {outings.hasNextPage && !online && (
            <p className="py-2 text-soft">Older outings come with signal.</p>
          )}
          {outings.hasNextPage && online && (
            <Button
              className="mt-2 w-full"
              disabled={outings.isFetchingNextPage}
              onClick={() => outings.fetchNextPage()}
            >
              {outings.isFetchingNextPage ? "Opening older outings" : "Older outings"}
            </Button>
          )}
        </>
      )}
    </div>
  );
}

/** The outings that fit what was asked. */
function Found({ find }: { find: string }) {
  const found = useFound(find);
  if (found.isError) return <Trouble error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Working what="Looking through the ledger" />;
  const { outings, unknown } = found.data;
  return (
    <div aria-live="polite">
      {outings.length === 0 && (
        <p className="text-soft">
          {unknown.length > 0
            ? `Nothing in this log is called ${unknown.join(", ")}.`
            : "No outing fits all of these words."}
        </p>
      )}
      <OutingRows outings={outings} />
      {found.hasNextPage && (
        <Button
          className="mt-2 w-full"
          disabled={found.isFetchingNextPage}
          onClick={() => found.fetchNextPage()}
        >
          Older outings
        </Button>
      )}
    </div>
  );
}

/** Outings in a list, each drawn small. */
function OutingRows({ outings }: { outings: OutingSummary[] }) {
  const pages = Array.from({ length: Math.ceil(outings.length / STRIPS) }, (_, k) =>
    outings.slice(k * STRIPS, (k + 1) * STRIPS),
  );
  return (
    <ul className="space-y-2">
      {pages.map((page, k) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a new outing moves the others down a place, and no row is made anew under the thumb
        <Rows key={k} outings={page} />
      ))}
    </ul>
  );
}

function Rows({ outings }: { outings: OutingSummary[] }) {
  const strips = useStrips(outings.map((one) => one.id)).data;
  return outings.map((outing) => (
    <OutingLink key={outing.id} outing={outing} blocks={strips?.get(outing.id)} />
  ));
}

function OutingLink({
  outing,
  blocks,
}: {
  outing: OutingSummary;
  blocks: Parameters<typeof MiniStrip>[0]["blocks"];
}) {
  return (
    <li>
      <Link
        to={address.outing(outing.id)}
        className="block min-h-14 rounded-2xl bg-paper p-4 hover:outline-2"
      >
        <OutingLine outing={outing} />
        {outing.tally.drifts > 0 && <MiniStrip blocks={blocks} />}
      </Link>
    </li>
  );
}

export function LedgerPage() {
  const { outingId = "" } = useParams();
  const ledger = useLedger(outingId);
  const from = useFrom(ledger.dataUpdatedAt);
  const online = useOnline();
  const [sharing, setSharing] = useState(false);
  const [saving, setSaving] = useState(false);
  const angler = useKeptAngler()?.id;
  const beats = useBeats().data;
  const waits = useWaitingOutings(angler, beats).some((one) => one.id === outingId);
  const here = useLedgerHere(angler, outingId, beats);
  const corrected = useAsCorrected(angler, ledger.data, beats);
  const silent = ledger.isError || ledger.fetchStatus === "paused";
  if (here && silent && (waits || !ledger.data))
    return (
      <Outing ledger={here} angler={angler} beat={beats?.find((one) => one.id === here.outing.beat_id)}>
        <p className="text-soft">As it stands on this device; sharing and saving come with signal.</p>
      </Outing>
    );
  if (ledger.isPending) return <Working what="Opening the outing" />;
  // one that was just taken back is not found any more, and stays here to be put back
  if (!ledger.data || !corrected) return <Trouble error={ledger.error} retry={() => ledger.refetch()} />;
  const { outing } = ledger.data;
  return (
    <Outing ledger={corrected} angler={angler} beat={beats?.find((one) => one.id === outing.beat_id)}>
      {online ? (
        <>
          <Button onClick={() => setSaving(true)}>Save</Button>
          <Button onClick={() => setSharing(true)}>Share</Button>
        </>
      ) : (
        <p className="self-center text-soft">As of {from}; sharing and saving come with signal.</p>
      )}
      {angler && (
        <Again
          key={outing.id}
          outing={outing}
          onChange={(change) => {
            const { id, beat_id, started_at, ended_at } = outing;
            const body = { beat_id, started_at, ended_at, gone: false };
            return changeOuting(angler, id, body, change);
          }}
        />
      )}
      {saving && (
        <SaveSheet what="this outing" which={{ outing: outing.id }} onClose={() => setSaving(false)} />
      )}
      {sharing && (
        <ShareSheet
          name={`${outing.beat}, ${date(outing.started_at)}`}
          thing={{ outing_id: outing.id }}
          onClose={() => setSharing(false)}
        />
      )}
    </Outing>
  );
}

/** Going on with an outing, and taking one back; what was taken back can be put back as long as one stays here. */
function Again({
  outing,
  onChange,
}: {
  outing: OutingSummary;
  onChange: (change: { ended_at?: string | null; gone?: boolean }) => Promise<void>;
}) {
  const [asking, setAsking] = useState(false);
  const [state, setState] = useState<"as it was" | "gone" | "under way" | "failed">("as it was");
  const change = (what: Parameters<typeof onChange>[0], then: typeof state) =>
    onChange(what).then(
      () => setState(then),
      () => setState("failed"),
    );
  if (state === "gone")
    return <Button onClick={() => change({ gone: false }, "as it was")}>Taken back. Put it back</Button>;
  return (
    <>
      {canGoOn(outing.ended_at) && state !== "under way" && (
        <Button onClick={() => change({ ended_at: null }, "under way")}>Resume it</Button>
      )}
      {state === "under way" && <p className="self-center text-soft">Under way: log on.</p>}
      <Button onClick={() => setAsking(true)}>Delete</Button>
      {state === "failed" && (
        <Trouble error={new Error("This device could not keep that. Free some space.")} />
      )}
      {asking && (
        <Sheet title="Delete this outing?" open onClose={() => setAsking(false)}>
          <p>
            {several(outing.tally.drifts, "drift", "drifts")} and {outing.tally.fish} fish go out of the
            ledger, on every device. On this page it can be put back.
          </p>
          <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
            <Button onClick={() => setAsking(false)}>Keep it</Button>
            <Button
              look="main"
              onClick={() => {
                setAsking(false);
                void change({ gone: true }, "gone");
              }}
            >
              Delete it
            </Button>
          </div>
        </Sheet>
      )}
    </>
  );
}

/** An outing in full: one's own, or one that is shared. */
export function Outing({
  ledger,
  angler,
  beat,
  children,
}: {
  ledger: Ledger;
  /** Whose it is, where it is one's own: who reads another's has no notes of it, and corrects nothing. */
  angler?: string | undefined;
  /** The beat, if it is still fished: where its drifts may be moved. */
  beat?: Beat | undefined;
  children?: ReactNode;
}) {
  const [open, setOpen] = useState<string | null>(null);
  const lines = angler ? linesOf(ledger) : [];
  const line = lines.find((one) => one.drift.id === open);
  const { show, clock } = useUnits();
  const { outing, stops } = ledger;
  const { rate } = outing.tally;
  const { temperature_c, clarity_m } = outing.conditions as { temperature_c?: number; clarity_m?: number };
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <div className="flex flex-wrap items-end justify-between gap-2 pt-2">
        <div>
          <h1 className="text-2xl font-bold">
            {outing.beat}, {date(outing.started_at)}
          </h1>
          <p className="text-soft">
            {clock(outing.started_at)} to {outing.ended_at ? clock(outing.ended_at) : "now"} ·{" "}
            {counts(outing)}
            {temperature_c !== undefined && ` · water ${show(temperature_c, "°C")}`}
            {clarity_m !== undefined && `, clear to ${show(clarity_m, "m")}`}
          </p>
          {rate && outing.tally.fish === 0 && (
            <p className="text-soft">
              No fish in {several(outing.tally.drifts, "drift", "drifts")}: that many say it is under{" "}
              {Math.ceil(100 * rate.high)} in 100 (9 times in 10), and no more.
            </p>
          )}
          {rate && outing.tally.fish > 0 && (
            <p className="text-soft">
              A fish in {(100 * rate.median).toFixed(0)} of 100 drifts; by so few, anything from{" "}
              {(100 * rate.low).toFixed(0)} to {(100 * rate.high).toFixed(0)} (9 times in 10).
            </p>
          )}
        </div>
        {children && <div className="flex flex-wrap gap-2 print:hidden">{children}</div>}
      </div>
      <OutingStrip ledger={ledger} />
      {angler && <Notes key={outing.id} angler={angler} ledger={ledger} />}
      {angler && lines.length > 0 && (
        <p className="text-soft print:hidden">Tap a drift to correct it, or to say that it was elsewhere.</p>
      )}
      {stops.filter(isFished).map((stop) => (
        <Stop key={stop.id} stop={stop} onOpen={angler ? setOpen : undefined}>
          {angler && <StopNotes key={stop.id} angler={angler} ledger={ledger} stop={stop} />}
        </Stop>
      ))}
      {!stops.some(isFished) && <p className="text-soft">No lie was fished on this outing.</p>}
      {angler && line && (
        <LineSheet
          angler={angler}
          lies={beat?.lies ?? []}
          release={beat?.rules.release ?? false}
          line={line}
          lines={lines}
          over={outing.ended_at !== null}
          onClose={() => setOpen(null)}
        />
      )}
    </div>
  );
}

type StopAt = Ledger["stops"][number];
type DriftAt = StopAt["settings"][number]["drifts"][number];

/** One where all was moved elsewhere was not fished. */
const isFished = (stop: StopAt): boolean => stop.settings.some((one) => one.drifts.length > 0);

/** What was noted of a stop and of its fish. */
function StopNotes({ angler, ledger, stop }: { angler: string; ledger: Ledger; stop: StopAt }) {
  const { clock } = useUnits();
  const fish = stop.settings.flatMap((one) => one.drifts.flatMap((drift) => drift.catches));
  return (
    <div className="mt-2 space-y-1 border-t border-line pt-1">
      <Story outing={ledger.outing.id} stop={stop.id} lie={stop.lie} />
      <Notes angler={angler} ledger={ledger} about={{ stop_id: stop.id }} title={`Note on ${stop.lie}`} />
      {fish.map((one) => (
        <Notes
          key={one.id}
          angler={angler}
          ledger={ledger}
          about={{ catch_id: one.id }}
          title={`Note on the ${one.species} of ${clock(one.at)}`}
        />
      ))}
    </div>
  );
}

function Stop({
  stop,
  onOpen,
  children,
}: {
  stop: StopAt;
  /** Where drifts can be corrected. */
  onOpen?: ((drift: string) => void) | undefined;
  children?: ReactNode;
}) {
  const { show, clock } = useUnits();
  const said = useSetting();
  const { water } = stop.situation;
  return (
    <Panel>
      <h2 className="text-lg font-semibold">
        {stop.lie} <span className="font-normal text-soft">from {clock(stop.at)}</span>
      </h2>
      <p className="text-soft">
        {show(water.depth_m, "m")} deep, {show(water.surface_speed_m_s, "m/s")} at the top
      </p>
      <ol className="mt-2 space-y-3 border-l-4 border-water-1 pl-4">
        {stop.settings.map((setting) => (
          <li key={setting.id}>
            <h3 className="font-semibold">
              {said(setting)}
              <span className="font-normal text-soft">
                {" "}
                · {setting.rig !== "dry" && setting.setup.point_form && `${pointFly(setting.setup)} · `}
                {clock(setting.at)}
              </span>
            </h3>
            {setting.drifts.length === 0 && <p className="text-soft">no drift</p>}
            <ol className="mt-1 flex flex-wrap gap-1.5">
              {setting.drifts.map((drift) => (
                <li key={drift.id}>
                  <Pill drift={drift} onOpen={onOpen} />
                </li>
              ))}
            </ol>
          </li>
        ))}
      </ol>
      {children}
    </Panel>
  );
}

const LOOK = {
  fish: "bg-signal-fill font-semibold text-signal-ink",
  clean: "border border-line",
  touched: "bg-ink text-ground",
};

/** A drift and how it ended; a key where it can be corrected. */
function Pill({ drift, onOpen }: { drift: DriftAt; onOpen: ((drift: string) => void) | undefined }) {
  const { show, clock } = useUnits();
  const { outcome } = drift;
  const look = `rounded-full px-3 py-1 text-sm text-left ${LOOK[outcome === "fish" || outcome === "clean" ? outcome : "touched"]}`;
  const said = (
    <>
      {drift.outcome === "lost_fly" && drift.lost ? LOST[drift.lost] : OUTCOME[drift.outcome]}
      {drift.weed && " · weed on the hook"}
      {drift.pace && ` · ${drift.pace}`}
      {drift.catches.map((fish) => (
        <span key={fish.id}>
          {": "}
          {fish.species}
          {fish.length_mm !== null &&
            ` ${show(fish.length_mm, "fish")}${fish.length_how === "eye" ? " by eye" : ""}`}
          {fish.weight_g !== null && `, about ${show(fish.weight_g, "weight")}`}
          {fish.weight_low_g !== null &&
            fish.weight_high_g !== null &&
            ` (${show(fish.weight_low_g, "weight")} to ${show(fish.weight_high_g, "weight")})`}
          , {fish.fly}
          {fish.condition && fish.condition !== "strong" && `, ${fish.condition}`}, {PHASE[fish.phase]}
        </span>
      ))}
    </>
  );
  if (!onOpen) return <span className={`block ${look}`}>{said}</span>;
  return (
    <button
      type="button"
      className={`min-h-11 ${look}`}
      title={clock(drift.at)}
      onClick={() => onOpen(drift.id)}
    >
      {said}
    </button>
  );
}
