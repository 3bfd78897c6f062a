import { useState } from "react";
import { brought } from "../../ui/brought";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

const told = brought(() => import("./Troubles"));
const Troubles = told.part("Troubles");

/** On the bank, two taps deep: what is wrong, and what to do. */
export function TroubleSheet() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button className="w-full" onClick={() => told.bring().then(() => setOpen(true))}>
        Something goes wrong
      </Button>
      <Sheet title="What goes wrong?" open={open} onClose={() => setOpen(false)}>
        <Troubles />
        <Button className="w-full" onClick={() => setOpen(false)}>
          Back to the keys
        </Button>
      </Sheet>
    </>
  );
}
