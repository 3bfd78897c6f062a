import { lazy, Suspense, useState } from "react";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

const Troubles = lazy(() => import("./Troubles").then(({ Troubles: found }) => ({ default: found })));

/** On the bank, two taps deep: what is wrong, and what to do. */
export function TroubleSheet() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button className="w-full" onClick={() => setOpen(true)}>
        Something goes wrong
      </Button>
      <Sheet title="What goes wrong?" open={open} onClose={() => setOpen(false)}>
        <Suspense fallback={<div className="min-h-96" />}>
          <Troubles />
        </Suspense>
      </Sheet>
    </>
  );
}
