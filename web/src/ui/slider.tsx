import { Slider as RadixSlider } from "radix-ui";

interface SliderProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  shown: string;
  onChange: (value: number) => void;
}

/** A slider that answers while it moves. */
export function Slider({ label, value, min, max, step, shown, onChange }: SliderProps) {
  return (
    <div>
      <div className="flex items-baseline justify-between">
        <span className="text-sm text-soft">{label}</span>
        <span className="text-lg font-semibold">{shown}</span>
      </div>
      <RadixSlider.Root
        className="relative flex h-14 touch-none select-none items-center"
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
      >
        <RadixSlider.Track className="relative h-2 grow rounded-full bg-line">
          <RadixSlider.Range className="absolute h-full rounded-full bg-mark" />
        </RadixSlider.Track>
        <RadixSlider.Thumb
          aria-label={label}
          aria-valuetext={shown}
          className="block size-9 rounded-full border-4 border-paper bg-ink shadow"
        />
      </RadixSlider.Root>
    </div>
  );
}
