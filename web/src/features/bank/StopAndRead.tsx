import type { Caution } from "../../api/client";
import { Button, Cautions } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

/** What must be read before the first drift: water too warm for the fish, or not safe to wade. */
export function StopAndRead({
  cautions,
  onGo,
  onClose,
}: {
  cautions: readonly Caution[];
  onGo: () => void;
  onClose: () => void;
}) {
  return (
    <Sheet title="Stop and read" open onClose={onClose}>
      <Cautions cautions={cautions} />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button look="main" onClick={onClose}>
          Not now
        </Button>
        <Button onClick={onGo}>I have read it</Button>
      </div>
    </Sheet>
  );
}
