import { ArrowLeftRight } from "lucide-react";
import { RIG, useSetting } from "../../app/rigs";
import { carrySecond, leaveSecond, swapRods, useSecondRod } from "../../local/inhand";
import type { InHand } from "../../local/records";
import { Button } from "../../ui/parts";

/** The second rod that is carried, ready as it was put down: a tap, and it is the one in hand. */
export function OtherRod({ angler, inHand }: { angler: string; inHand: InHand }) {
  const said = useSetting();
  const other = useSecondRod(angler);
  if (!other) return null;
  return (
    <button
      type="button"
      className="flex h-11 shrink-0 items-center gap-1 rounded-xl border border-line bg-paper px-2 text-sm leading-none"
      aria-label={`The other rod: ${said(other)}`}
      onClick={() => void swapRods(angler, inHand)}
    >
      <ArrowLeftRight aria-hidden size={18} />
      {RIG[other.rig]}
    </button>
  );
}

/** Whether a second rod is carried: it begins as the one in hand is, and goes its own way from there. */
export function SecondRod({
  angler,
  inHand,
  onDone,
}: {
  angler: string;
  inHand: InHand;
  onDone: () => void;
}) {
  const said = useSetting();
  const other = useSecondRod(angler);
  if (other)
    return (
      <Button className="w-full" onClick={() => void leaveSecond(angler).then(onDone)}>
        Leave the second rod: {said(other)}
      </Button>
    );
  return (
    <Button className="w-full" onClick={() => void carrySecond(angler, inHand).then(onDone)}>
      Carry a second rod, set up like this one
    </Button>
  );
}
