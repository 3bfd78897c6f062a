import { Link } from "wouter";
import type { Beat, Lie } from "../../api/client";
import { address } from "../../app/addresses";
import { AgainWords } from "../../app/lie";
import { useSetting } from "../../app/rigs";
import { useFirstHour } from "../../local/habits";
import { type Log, useEndedLately } from "../../local/logbook";
import { sendNow } from "../../local/outbox";
import { device, type InHand } from "../../local/records";
import type { Again } from "../../local/standing";
import { Button, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { NO_ROOM, Saved } from "./BankWord";
import { changeOuting } from "./useBank";

interface Props {
  log: Log;
  lie: Lie;
  beat: Beat;
  angler: string;
  again: Again | null;
  /** What was chosen for this lie, or is advised, while another rig is carried there. */
  instead: InHand | null;
  trouble: unknown;
  act: (action: () => Promise<unknown>) => void;
  onStart: () => void;
}

/** Before the first drift here: start, or go on with the outing that has just ended. */
export function NotFishing({ log, lie, beat, angler, again, instead, trouble, act, onStart }: Props) {
  const ended = useEndedLately(angler, beat.id);
  const said = useSetting();
  const simple = useFirstHour();
  const { clock } = useUnits();
  return (
    <>
      <Button look="main" className="min-h-21 w-full text-xl" onClick={onStart}>
        {log.outing ? `Fish ${lie.name}` : "Start outing"}
      </Button>
      {instead && (
        <Button
          className="w-full"
          onClick={() => act(() => device.inHand.put({ ...instead, at: new Date().toISOString() }))}
        >
          {instead.at ? "Chosen" : "Advised"} here: {said(instead)}
        </Button>
      )}
      {!log.outing && ended && (
        <Button
          className="w-full"
          onClick={() => act(() => changeOuting(angler, ended.id, ended.body, { ended_at: null }))}
        >
          Resume the outing of {clock(ended.body.started_at)}
        </Button>
      )}
      <div className="h-14">
        <Saved log={log} onSend={() => act(() => sendNow(angler))} />
      </div>
      {trouble !== null && <Trouble error={new Error(NO_ROOM)} />}
      {again && (
        <p role="status" className="font-semibold">
          <AgainWords again={again} />
        </p>
      )}
      <p className="text-soft">
        Then one tap a drift. Nothing to type; a tap is kept on this device first.{" "}
        {simple === false && (
          <>
            <Link to={address.part("first-hour")} className="text-ink underline underline-offset-4">
              Your first hour?
            </Link>{" "}
          </>
        )}
        <Link to={address.lie(lie.id, "rig")} className="text-ink underline underline-offset-4">
          Another rig
        </Link>
      </p>
    </>
  );
}
