import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

/** Ending an outing is asked for once: a wet thumb is not. */
export function EndSheet({
  drifts,
  onEnd,
  onClose,
}: {
  drifts: number;
  onEnd: () => void;
  onClose: () => void;
}) {
  return (
    <Sheet title="End the outing?" open onClose={onClose}>
      <p>
        {drifts === 0
          ? "Where nothing was fished nothing is kept. It can be resumed for half a day."
          : "It can be resumed for half a day, and stays in the ledger."}
      </p>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Fish on</Button>
        <Button look="main" onClick={onEnd}>
          End it
        </Button>
      </div>
    </Sheet>
  );
}
