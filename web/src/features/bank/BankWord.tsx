/** What stands between the column and the keys, and beneath them: each in a place that is kept for it. */
import type { ReactNode } from "react";
import { type Coaching, plainly, Refused } from "../../api/client";
import { AgainWords } from "../../app/lie";
import { NotHere } from "../../local/engine";
import type { Log } from "../../local/logbook";
import type { Again } from "../../local/standing";
import { type By, CoachDo } from "./CoachLine";

export const NO_ROOM = "This device could not keep that tap. Free some space and tap again.";

/** The one line between column and keys. Whatever it says, it stands in the same place, and nothing beneath it moves. */
export function Word({
  trouble,
  refused,
  again,
  mute = null,
  advised,
  alone,
  busy = false,
  onChange = () => undefined,
}: {
  trouble: unknown;
  refused: Log["refused"];
  again: Again | null;
  mute?: Error | null;
  advised?: (Coaching & By) | undefined;
  /** A single dry is on the rod: no depth is learned from it. */
  alone: boolean;
  busy?: boolean;
  onChange?: () => void;
}) {
  const told = (text: ReactNode, grave = false) => (
    <p
      role={grave ? "alert" : "status"}
      className={`px-1 leading-tight ${grave ? "font-semibold text-stop" : ""}`}
    >
      {text}
    </p>
  );
  const word =
    trouble !== null
      ? told(NO_ROOM, true)
      : refused.length > 0
        ? told(
            `The service refused ${refused.length}: ${refused[0]?.refused?.map((one) => one.message).join(" · ")}. It is kept on this device.`,
            true,
          )
        : alone
          ? told("A single dry: nothing to set. Watch for the rise, and strike late.")
          : advised && !(mute instanceof Refused)
            ? null
            : again
              ? told(<AgainWords again={again} />)
              : mute instanceof Refused
                ? told(`The coach cannot tell: ${mute.faults.map(plainly).join(" · ")}`, true)
                : mute instanceof NotHere
                  ? told("The coach was not taken along: it needs signal. The taps are kept for it.")
                  : mute
                    ? told("The coach has no answer; the taps are kept for it.")
                    : null;
  return (
    <div className="flex h-14 short:h-12 flex-col justify-center overflow-y-auto">
      {word ?? (advised && <CoachDo coaching={advised} busy={busy} onChange={onChange} />)}
    </div>
  );
}

/** Whether all is with the service, and a way to send what is not at once. */
export function Saved({ log, onSend }: { log: Log; onSend: () => void }) {
  if (log.waiting === 0) return <p className="self-center px-1 text-sm text-soft">all saved</p>;
  return (
    <button
      type="button"
      className="min-h-14 w-full px-1 text-left text-sm leading-tight text-soft underline underline-offset-4"
      onClick={onSend}
    >
      {log.waiting} kept here, waiting for signal: send now
    </button>
  );
}
