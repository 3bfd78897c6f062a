import { useEffect, useState } from "react";
import { seenEviction, wasEvicted } from "../local/outbox";
import { Button } from "../ui/parts";

/** Says it where the browser has thrown away what was kept here. What the service has acknowledged is safe with it. */
export function Evicted() {
  const [gone, setGone] = useState(false);
  useEffect(() => {
    wasEvicted().then(setGone, () => undefined);
  }, []);
  if (!gone) return null;
  const close = () => {
    seenEviction();
    setGone(false);
  };
  return (
    <div role="alert" className="my-2 rounded-xl border-2 border-stop bg-paper p-4">
      <p className="font-semibold text-stop">
        This browser has thrown away what was kept on this device. What had been sent is safe in the ledger;
        taps that were still waiting for signal are lost, and beats must be taken along again.
      </p>
      <Button className="mt-2" onClick={close}>
        I have read it
      </Button>
    </div>
  );
}
