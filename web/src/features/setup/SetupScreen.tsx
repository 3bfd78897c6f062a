import { useState } from "react";
import { Link, useLocation } from "wouter";
import type { GaugeIn, River, RiverIn } from "../../api/client";
import { address } from "../../app/addresses";
import { newId } from "../../local/outbox";
import { useSession } from "../../queries/angler";
import { useBeats, useRivers, useSetup } from "../../queries/places";
import { Choice } from "../../ui/choosing";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { SharedWithMe } from "../sharing/SharedWithMe";
import { faultOf, Rest, TextField } from "./fields";
import { notAPlace, PlaceField, placeOf, placeText } from "./place";
import { Retired } from "./Retired";

const FORMATS = [
  ["rdb", "RDB"],
  ["waterml", "WaterML 2"],
  ["csv", "CSV"],
] as const;

/** Rivers: the ones there are, each to be changed, and a new one. */
export function SetupScreen() {
  const rivers = useRivers();
  const beats = useBeats();
  const session = useSession();
  const [open, setOpen] = useState<string | null>(null);
  if (rivers.isError && !rivers.data) return <Trouble error={rivers.error} retry={() => rivers.refetch()} />;
  // with their beats, or not yet: what comes later would push the form away under the thumb
  if (!rivers.data || beats.isLoading) return <Working what="Reading your rivers" />;
  const none = rivers.data.length === 0;
  const home = session.data?.angler?.home_river ?? "";
  return (
    <div className="mx-auto max-w-2xl space-y-4 pt-2">
      <div>
        <h1 className="text-2xl font-bold">{none ? "Your first river" : "Rivers"}</h1>
        <p className="mt-1 text-soft">
          A name is enough to begin. With its place the sun is known, with a gauge every lie is carried to
          today's flow. Then come its beats, and on each the lies.
        </p>
      </div>
      {rivers.data.map((river) =>
        open === river.id ? (
          <RiverForm key={river.id} river={river} onDone={() => setOpen(null)} />
        ) : (
          <Panel key={river.id} title={river.name}>
            <p>
              {river.gauge ? `Gauge ${river.gauge.name}` : "No gauge"} ·{" "}
              {river.latitude === null || river.latitude === undefined ? "place not known" : "place known"}
            </p>
            <ul className="my-2 flex flex-wrap gap-x-4">
              {beats.data
                ?.filter((beat) => beat.river_id === river.id)
                .map((beat) => (
                  <li key={beat.id}>
                    <Link
                      to={address.beat(beat.id)}
                      className="inline-flex min-h-11 items-center underline underline-offset-4"
                    >
                      {beat.name}
                    </Link>
                  </li>
                ))}
            </ul>
            <Button onClick={() => setOpen(river.id)}>Change {river.name}</Button>
          </Panel>
        ),
      )}
      {none || open === "new" ? (
        <RiverForm
          key={none ? home : "new"}
          river={null}
          home={none ? home : ""}
          onDone={() => setOpen(null)}
        />
      ) : (
        <Button className="w-full" onClick={() => setOpen("new")}>
          Add a river
        </Button>
      )}
      <Retired />
      <SharedWithMe />
    </div>
  );
}

interface Draft {
  name: string;
  place: string;
  weather: string;
  gauge: string;
  address: string;
  daily: string;
  format: GaugeIn["format"];
  beat: string;
}

const draftOf = (river: River | null): Draft => ({
  name: river?.name ?? "",
  place: placeText(river),
  weather: river?.weather_url ?? "",
  gauge: river?.gauge?.name ?? "",
  address: river?.gauge?.url ?? "",
  daily: river?.gauge?.daily_url ?? "",
  format: river?.gauge?.format ?? "rdb",
  beat: "",
});

const FIELDS = ["name", "latitude", "longitude", "weather_url", "url", "daily_url", "rules_text"];

/** A river on one page: name, place, gauge, and the first beat of a new one. It is stored in one go. */
function RiverForm({
  river,
  home = "",
  onDone,
}: {
  river: River | null;
  /** What was called the home river: the first one. */
  home?: string;
  onDone: () => void;
}) {
  const [draft, setDraft] = useState(() => ({ ...draftOf(river), ...(river ? {} : { name: home }) }));
  const [ids] = useState(() => ({
    river: river?.id ?? newId(),
    gauge: river?.gauge_id ?? newId(),
    beat: newId(),
  }));
  const [lost, setLost] = useState<string | undefined>();
  const store = useSetup();
  const [, navigate] = useLocation();
  const set = (change: Partial<Draft>) => setDraft({ ...draft, ...change });
  const save = () => {
    const place = placeOf(draft.place);
    if (draft.place.trim() && place === null) {
      setLost(notAPlace(draft.place));
      return;
    }
    setLost(undefined);
    const body: RiverIn = {
      name: draft.name,
      latitude: place?.[0] ?? null,
      longitude: place?.[1] ?? null,
      weather_url: draft.weather.trim() || null,
    };
    // a gauge that is only named is one whose past comes from files
    const gauge: GaugeIn | null =
      draft.address.trim() || draft.gauge.trim()
        ? {
            river_id: ids.river,
            name: draft.gauge.trim() || draft.name,
            format: draft.format,
            url: draft.address.trim() || null,
            daily_url: draft.daily.trim() || null,
          }
        : null;
    const beat = river ? null : draft.beat.trim() || draft.name;
    store.mutate(
      { ids, river: body, gauge, beat },
      {
        onSuccess: () => {
          onDone();
          if (!river) navigate(address.beat(ids.beat));
        },
      },
    );
  };
  return (
    <Panel title={river ? `Change the ${river.name}` : "A new river"}>
      <div className="space-y-3">
        <TextField
          label="Name of the river"
          value={draft.name}
          onChange={(name) => set({ name })}
          error={faultOf(store.error, "name")}
        />
        {!river && (
          <TextField
            label="First beat (or leave it: the river's name)"
            value={draft.beat}
            onChange={(beat) => set({ beat })}
          />
        )}
        <PlaceField
          label="Where: latitude, longitude"
          value={draft.place}
          error={lost ?? faultOf(store.error, "latitude") ?? faultOf(store.error, "longitude")}
          onChange={(place, why) => {
            set({ place });
            setLost(why);
          }}
        />
        <details className="rounded-xl border border-line p-3" open={Boolean(draft.address)}>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">Gauge and weather</summary>
          <div className="space-y-3">
            <p className="text-sm text-soft">
              A gauge with a name alone is kept: its past is taken in from files. One that is read by itself
              needs an address, and whoever runs this has to allow its host. Where the address asks for times,
              write <code>{"{start}"}</code> and <code>{"{end}"}</code>.
            </p>
            <TextField label="Name of the gauge" value={draft.gauge} onChange={(gauge) => set({ gauge })} />
            <TextField
              label="Address of its values"
              value={draft.address}
              onChange={(address) => set({ address })}
              error={faultOf(store.error, "url")}
            />
            <Choice
              label="Its format"
              value={draft.format}
              options={FORMATS}
              onChange={(format) => set({ format })}
            />
            <TextField
              label="Address of its daily means (RDB), for what is normal"
              value={draft.daily}
              onChange={(daily) => set({ daily })}
              error={faultOf(store.error, "daily_url")}
            />
            <TextField
              label="Address of the weather"
              value={draft.weather}
              onChange={(weather) => set({ weather })}
              error={faultOf(store.error, "weather_url")}
            />
          </div>
        </details>
        <Rest error={store.error} fields={FIELDS} />
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
          <Button onClick={onDone}>Leave it</Button>
          <Button look="main" onClick={save} disabled={store.isPending}>
            {store.isPending ? "Reading the gauge…" : river ? "Change it" : "Add it"}
          </Button>
        </div>
      </div>
    </Panel>
  );
}
