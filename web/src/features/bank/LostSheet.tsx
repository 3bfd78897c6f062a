import type { Setup } from "../../api/client";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

export type Lost = "point" | "dropper" | "both";

/** Of a rig with two flies: which went. Nothing said, it was the point: it is what meets the stones. */
export function LostSheet({
  setup,
  onSay,
  onClose,
}: {
  setup: Setup;
  onSay: (lost: Lost) => void;
  onClose: () => void;
}) {
  const flies: readonly (readonly [Lost, string, string])[] = [
    ["point", "The point", `${setup.point_form}, size ${setup.point_hook}`],
    ["dropper", "The upper", `${setup.dropper_form}, size ${setup.dropper_hook}`],
    ["both", "Both", "the tippet above them parted"],
  ];
  return (
    <Sheet title="Which fly went?" open onClose={onClose}>
      <p>It comes off the count of the box. Take what line is left with you.</p>
      {flies.map(([lost, name, what]) => (
        <Button key={lost} className="min-h-18 w-full leading-tight" onClick={() => onSay(lost)}>
          <span className="block text-xl font-bold">{name}</span>
          <span className="block text-sm">{what}</span>
        </Button>
      ))}
    </Sheet>
  );
}
