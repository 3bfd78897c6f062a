import { Slider } from "radix-ui";
import { useState } from "react";
import * as bounds from "../../api/bounds";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { fromShown, scaleOf, toShown } from "../../units/units";

const HEIGHT = 300;
const { min: LEAST_M, max: MOST_M } = bounds.ReadingIn.depth_m;
const HOW = [
  ["staff", "By staff"],
  ["line", "By line"],
  ["eye", "By eye"],
] as const;

interface Props {
  lie: string;
  /** The depth believed, where the mark starts. */
  depth: number;
  onSave: (depth_m: number, how: "staff" | "line" | "eye") => void;
  onClose: () => void;
}

/** A sounding in three taps: open, touch the depth on the ruler, say how. No typing. */
export function SoundSheet({ lie, depth, onSave, onClose }: Props) {
  const { show, system } = useUnits();
  const [mark, setMark] = useState(depth);
  const step = fromShown(scaleOf("m", system).step, "m", system);
  const room = Math.min(MOST_M, Math.max(1, 1.8 * depth));
  const y = (metres: number) => ((metres - LEAST_M) / (room - LEAST_M)) * HEIGHT;
  const nudge = (by: number) =>
    setMark(Math.min(MOST_M, Math.max(LEAST_M, Math.round(mark / step + by) * step)));
  const each = fromShown(system === "us" ? 1 : 0.25, "m", system);
  const marks = Array.from({ length: Math.floor(room / each) + 1 }, (_, k) => k * each);
  return (
    <Sheet title={`How deep is ${lie}?`} open onClose={onClose}>
      <div className="flex items-center gap-3">
        <Slider.Root
          orientation="vertical"
          inverted
          value={[mark]}
          min={LEAST_M}
          max={room}
          step={step}
          data-testid="ruler"
          onValueChange={([next]) => next !== undefined && setMark(next)}
          className="relative flex w-full touch-none cursor-pointer select-none justify-center overflow-hidden rounded-xl"
          style={{ height: HEIGHT }}
        >
          <Slider.Track className="relative h-full w-full bg-bed">
            <Slider.Range className="absolute w-full bg-water-1" />
            <svg width="100%" height={HEIGHT} className="absolute inset-0" aria-hidden>
              <line
                x2="100%"
                y1={y(depth)}
                y2={y(depth)}
                stroke="var(--ink)"
                strokeWidth={1.5}
                strokeDasharray="4 5"
              />
              {marks.map((metres) => (
                <g key={metres}>
                  <line x2={14} y1={y(metres)} y2={y(metres)} stroke="var(--ink)" strokeWidth={2} />
                  <text
                    x={20}
                    y={y(metres) + 6}
                    fontSize={17}
                    fill="var(--ink)"
                    stroke="var(--water-0)"
                    strokeWidth={3}
                    paintOrder="stroke"
                  >
                    {metres > 0 && toShown(metres, "m", system).toFixed(system === "us" ? 0 : 2)}
                  </text>
                </g>
              ))}
            </svg>
          </Slider.Track>
          <Slider.Thumb
            aria-label="depth"
            aria-valuetext={show(mark, "m")}
            className="block h-3 w-[96vw] rounded-full bg-signal"
          />
        </Slider.Root>
        <div className="grid shrink-0 gap-3 text-center">
          <Button className="size-18 text-3xl" aria-label="shallower" onClick={() => nudge(-1)}>
            −
          </Button>
          <output className="text-xl font-bold" aria-live="polite">
            {show(mark, "m")}
          </output>
          <Button className="size-18 text-3xl" aria-label="deeper" onClick={() => nudge(1)}>
            +
          </Button>
        </div>
      </div>
      <p className="text-soft">Touch the depth on the ruler; dashed is what is believed now.</p>
      <div className="grid grid-cols-3 gap-2">
        {HOW.map(([how, words]) => (
          <Button
            key={how}
            look={how === "staff" ? "main" : "plain"}
            className="min-h-18 px-1 text-lg"
            onClick={() => onSave(mark, how)}
          >
            {words}
          </Button>
        ))}
      </div>
    </Sheet>
  );
}
