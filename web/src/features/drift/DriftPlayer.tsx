import { Pause, Play } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import type { Column, DriftPath } from "../../api/client";
import { useKeys } from "../../app/shortcuts";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";
import { DepthTrace } from "./DepthTrace";
import { DriftScene } from "./DriftScene";
import { Readout } from "./Readout";

interface Props {
  path: DriftPath;
  ghosts: DriftPath[];
  column: Column;
}

const PACES = [
  ["0.25", "¼ speed"],
  ["0.5", "½ speed"],
  ["1", "real time"],
] as const;

const calm = () => matchMedia("(prefers-reduced-motion: reduce)").matches;

/** Plays a drift in real time, slowed or scrubbed. It stands at the end until it is played, or where motion is unwanted. */
export function DriftPlayer({ path, ghosts, column }: Props) {
  const { show } = useUnits();
  const lasts = (path.line_x_m.length - 1) * path.frame_s;
  const [time, setTime] = useState(() => (calm() ? lasts : 0));
  const [playing, setPlaying] = useState(() => !calm());
  const [pace, setPace] = useState<(typeof PACES)[number][0]>("1");
  const last = useRef<number | null>(null);

  useEffect(() => {
    // a change of the setting is looked at where one was looking; only a new length of drift starts anew
    setTime((before) => Math.min(before, lasts));
  }, [lasts]);

  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const tick = (now: number) => {
      const passed = last.current === null ? 0 : ((now - last.current) / 1000) * Number(pace);
      last.current = now;
      setTime((before) => Math.min(lasts, before + passed));
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(frame);
      last.current = null;
    };
  }, [playing, pace, lasts]);

  useEffect(() => {
    if (time >= lasts) setPlaying(false);
  }, [time, lasts]);

  const toggle = () => {
    if (time >= lasts) setTime(0);
    setPlaying(!playing);
  };
  useKeys({ p: toggle });

  return (
    <div>
      <DriftScene path={path} ghosts={ghosts} time={time} column={column} />
      <div className="mt-3 grid items-end gap-3 sm:grid-cols-[auto_1fr_auto]">
        <Button look="main" className="flex items-center justify-center gap-2 sm:min-w-36" onClick={toggle}>
          {playing ? <Pause aria-hidden size={22} /> : <Play aria-hidden size={22} />}
          {playing ? "Hold" : "Play"}
        </Button>
        <Slider
          label="Time since the flies landed"
          value={time}
          min={0}
          max={lasts}
          step={path.frame_s}
          shown={show(time, "s")}
          onChange={(value) => {
            setPlaying(false);
            setTime(value);
          }}
        />
        <Choice label="Pace" value={pace} options={PACES} onChange={setPace} />
      </div>
      <Readout path={path} time={time} />
      <DepthTrace path={path} ghosts={ghosts} time={time} />
    </div>
  );
}
