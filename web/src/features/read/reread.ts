/** Writing down what was read of a lie: one road, with signal or without. */
import { useMutation } from "@tanstack/react-query";
import type { Lie, ReadingIn } from "../../api/client";
import { useKeptAngler } from "../../local/angler";
import { ofKind } from "../../local/entries";
import { heldAt } from "../../local/logbook";
import { flush, write } from "../../local/outbox";
import { device, LOG } from "../../local/records";
import { type Base, changed } from "./base";

export const withoutTime = ({ at: _at, ...body }: ReadingIn): Base => body;

/** What is drawn of a lie's reading, under the id that a change of it is written. */
export interface Drawn {
  id: string;
  body: Base;
}

/** Change what was read of a lie. It builds on what the device has, not on what was drawn: taps come faster than drawings. */
export async function reread(
  angler: string,
  lie: Pick<Lie, "id" | "reading">,
  drawn: Drawn,
  change: Partial<ReadingIn>,
): Promise<void> {
  await device.transaction("rw", LOG, async () => {
    const held = heldAt(await ofKind(angler, "readings"), lie);
    const { id, body } = held ? { id: held.id, body: withoutTime(held.body) } : drawn;
    await write(angler, "readings", id, { ...changed(body, change), at: new Date().toISOString() });
  });
  void flush(angler);
}

/** The same as a screen does it: one after the other, and what the device cannot keep is said. */
export function useReread(lie: Lie, drawn: () => Drawn) {
  const angler = useKeptAngler()?.id;
  return useMutation({
    scope: { id: "readings" },
    networkMode: "always",
    mutationFn: async (change: Partial<ReadingIn>) => {
      if (angler) await reread(angler, lie, drawn(), change);
    },
  });
}
