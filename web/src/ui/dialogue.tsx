import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useBack } from "./back";

export interface SheetProps {
  title: string;
  onClose: () => void;
  /** What was entered would go with it: a stray Escape, the way back, or a tap beside it, asks first. By itself it knows of what was typed. */
  entered?: boolean;
  children: ReactNode;
}

const NOT_TEXT = ["checkbox", "radio", "range", "file"];
const isText = (field: EventTarget): boolean =>
  field instanceof HTMLTextAreaElement ||
  (field instanceof HTMLInputElement && !NOT_TEXT.includes(field.type));

/** An open sheet, over all else until it is closed. */
export function Dialogue({ title, onClose, entered, children }: SheetProps) {
  const [asking, setAsking] = useState(false);
  const [touched, setTouched] = useState(false);
  const full = entered ?? touched;
  const leave = () => (full ? setAsking(true) : onClose());
  useBack(leave);
  return (
    <Dialog.Root open onOpenChange={(next) => !next && leave()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          onInput={({ target }) => isText(target) && setTouched(true)}
          className="fixed inset-x-0 bottom-0 z-40 mx-auto flex max-h-[calc(92dvh-var(--above))] max-w-xl flex-col rounded-t-3xl bg-ground text-ink lg:bottom-auto lg:top-16 lg:max-h-[calc(100dvh-6rem)] lg:rounded-3xl"
        >
          <Dialog.Title className="shrink-0 pt-4 pr-[60px] pb-3 pl-4 text-xl font-bold">{title}</Dialog.Title>
          {asking && full && (
            <div role="alert" className="mx-4 mb-4 shrink-0 rounded-xl border-2 border-caution bg-paper p-3">
              <p className="font-semibold">Throw away what you entered?</p>
              <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
                <button
                  type="button"
                  className="min-h-14 rounded-xl border border-line bg-paper"
                  onClick={() => setAsking(false)}
                >
                  Keep on
                </button>
                <button
                  type="button"
                  className="min-h-14 rounded-xl border border-line bg-paper"
                  onClick={onClose}
                >
                  Throw it away
                </button>
              </div>
            </div>
          )}
          <div className="min-h-0 space-y-4 overflow-y-auto px-4 pt-1 pb-[calc(1.5rem+var(--below))]">
            {children}
          </div>
          {/* last, so that what is begun with is what the sheet is for */}
          <Dialog.Close
            aria-label="Close"
            className="absolute top-0 right-0 grid size-[56px] place-items-center rounded-full"
          >
            <X aria-hidden size={24} />
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
