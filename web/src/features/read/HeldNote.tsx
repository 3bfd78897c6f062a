import { plainly, Refused } from "../../api/client";
import type { Held } from "../../local/logbook";

/** What is wrong with a reading: it could not be kept, or the service did not take it. */
export const troubleOf = (error: Error | null, held: Held | null): Error | null =>
  error ?? (held?.refused ? new Refused(422, held.refused) : null);

/** A reading that the service has not got: kept here. What is drawn is of it, where this device draws it; null: nothing was. */
export const HeldNote = ({ held, drawn }: { held: Held; drawn: boolean | null }) => (
  <p role="status" className="my-2 rounded-xl border-2 border-caution bg-paper p-3">
    {held.refused === null
      ? `This reading is kept here and sent when there is signal. ${drawn === null ? "" : drawn ? "What is drawn is of it." : "What was drawn for the one before is put away."}`
      : `This reading was not taken: ${held.refused.map(plainly).join(" · ")}. Change it below.`}
  </p>
);
