/** What is read off the water at a lie, and how; the same fields for a first reading and for a change of one. */
import { type Fault, plainly, type ReadingIn, Refused } from "../../api/client";
import { Choice, Several } from "../../ui/choosing";
import { Button, NumberField, Panel, Trouble } from "../../ui/parts";
import { SpeedField, type Timed } from "./SpeedField";

const HOW = [
  ["eye", "by eye"],
  ["line", "by line"],
  ["staff", "by staff"],
] as const;

const SEEN = [
  ["boots", "your boots"],
  ["tube", "a tube"],
] as const;

const ROOM = [
  ["open", "open"],
  ["tight", "trees"],
] as const;

const FLOW = [
  ["below_normal", "low"],
  ["normal", "normal"],
  ["above_normal", "high"],
  ["much_above_normal", "spate"],
] as const;

const COVER = [
  ["rocks", "rocks in it"],
  ["roots", "roots, wood"],
  ["branches", "branches over"],
] as const;

const SHOWN = [
  "depth_m",
  "speed",
  "clarity_m",
  "temperature_c",
  "distance_m",
  "wind_m_s",
  "under_line_m_s",
] as const;

type Shown = (typeof SHOWN)[number];

/** The field beside which a fault is said; what a stopwatch gave is said at the speed. */
const shownAt = ({ field }: Fault): Shown | undefined =>
  /^(speed|surface_speed|bubbles)/.test(field ?? "") ? "speed" : SHOWN.find((one) => one === field);

export type Rest = Required<Omit<ReadingIn, "lie_id" | "at" | "depth_m" | "depth_sd_m" | "speed">>;

interface Props {
  title: string;
  /** Null: not known yet. */
  depth: number | null;
  speed: number | null;
  timed: Timed | null;
  rest: Rest;
  onChange: (change: Partial<ReadingIn>) => void;
  error: unknown;
}

export function ReadingForm({ title, depth, speed, timed, rest, onChange, error }: Props) {
  const faults: Fault[] = error instanceof Refused ? error.faults : [];
  const wrong = (field: Shown) => {
    const fault = faults.find((one) => shownAt(one) === field);
    return fault && plainly(fault);
  };
  const placed = faults.length > 0 && faults.every(shownAt);
  return (
    <Panel title={title}>
      <div className="grid gap-3 sm:grid-cols-2">
        <NumberField
          label="Depth"
          unit="m"
          value={depth}
          onCommit={(depth_m) => onChange({ depth_m })}
          error={wrong("depth_m")}
        />
        <Choice
          label="Depth known"
          value={rest.depth_how}
          options={HOW}
          onChange={(depth_how) => onChange({ depth_how })}
        />
        <div className="sm:col-span-2">
          <SpeedField speed={speed} timed={timed} onSave={onChange} error={wrong("speed")} />
        </div>
        <NumberField
          label="Seen down to"
          unit="m"
          value={rest.clarity_m}
          onCommit={(clarity_m) => onChange({ clarity_m })}
          error={wrong("clarity_m")}
        />
        <Choice
          label="By"
          value={rest.clarity_how}
          options={SEEN}
          onChange={(clarity_how) => onChange({ clarity_how })}
        />
        <NumberField
          label="Water temperature"
          unit="°C"
          value={rest.temperature_c}
          onCommit={(temperature_c) => onChange({ temperature_c })}
          error={wrong("temperature_c")}
        />
        <NumberField
          label="Distance to the fish"
          unit="reach"
          value={rest.distance_m}
          onCommit={(distance_m) => onChange({ distance_m })}
          error={wrong("distance_m")}
        />
        <NumberField
          label="Wind"
          unit="m/s air"
          value={rest.wind_m_s}
          onCommit={(wind_m_s) => onChange({ wind_m_s })}
          error={wrong("wind_m_s")}
        />
        <Choice
          label="Room to cast"
          value={rest.tight_casting ? "tight" : "open"}
          options={ROOM}
          onChange={(room) => onChange({ tight_casting: room === "tight" })}
        />
        <NumberField
          label="A bubble between you and the lane"
          unit="m/s"
          value={rest.under_line_m_s ?? null}
          onCommit={(under_line_m_s) => onChange({ under_line_m_s })}
          error={wrong("under_line_m_s")}
        />
        <Button
          className="self-end"
          disabled={(rest.under_line_m_s ?? null) === null}
          onClick={() => onChange({ under_line_m_s: null })}
        >
          As is usual for such a lie
        </Button>
        <div className="sm:col-span-2">
          <Several
            label="In the lie, or over it"
            values={rest.cover ?? []}
            options={COVER}
            onChange={(cover) => onChange({ cover })}
          />
        </div>
        <div className="sm:col-span-2">
          <Choice
            label="Flow"
            value={rest.flow_class}
            options={FLOW}
            onChange={(flow_class) => onChange({ flow_class })}
          />
        </div>
      </div>
      {error !== null && !placed && (
        <div className="mt-3">
          <Trouble error={error} />
        </div>
      )}
    </Panel>
  );
}
