import { ImageDown } from "lucide-react";
import { useState } from "react";
import { brought } from "../../ui/brought";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

const PictureList = brought(() => import("./PictureList")).part("PictureList");

/** The way to them from any page: at its top where the screen has the room, else at its foot. */
export function Pictures({ atFoot = false }: { atFoot?: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {atFoot ? (
        <Button look="quiet" className="lg:hidden" onClick={() => setOpen(true)}>
          Pictures of this page
        </Button>
      ) : (
        <button
          type="button"
          aria-label="pictures of this page"
          className="grid size-12 place-items-center rounded-full hover:bg-paper max-lg:hidden"
          onClick={() => setOpen(true)}
        >
          <ImageDown aria-hidden size={20} />
        </button>
      )}
      {open && (
        <Sheet title="Pictures of this page" open onClose={() => setOpen(false)}>
          <PictureList />
          <Button className="w-full" onClick={() => setOpen(false)}>
            Done
          </Button>
        </Sheet>
      )}
    </>
  );
}
