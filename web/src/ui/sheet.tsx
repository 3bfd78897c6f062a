import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet that rises from the thumb's end of the screen. */
export function Sheet({
  title,
  open,
  onClose,
  children,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-40 mx-auto max-h-[92dvh] max-w-xl space-y-4 overflow-y-auto rounded-t-3xl bg-ground p-4 pb-6 text-ink lg:bottom-auto lg:top-16 lg:max-h-[calc(100dvh-6rem)] lg:rounded-3xl"
        >
          <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
