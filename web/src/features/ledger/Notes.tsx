import { useState } from "react";
import type { Ledger } from "../../api/client";
import { useNotes } from "../../local/ledger";
import { flush, newId, write } from "../../local/outbox";
import { Button, Panel, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";

const MOST = 2000;

type Note = Ledger["notes"][number];

/** What a note may be of, beside the whole outing. */
type About = { stop_id: string } | { catch_id: string };

interface Props {
  angler: string;
  ledger: Ledger;
  /** What else than the whole outing. */
  about?: About;
  /** How it is said what is noted of. */
  title?: string;
}

const isOf = (note: Note, about: About | undefined): boolean => {
  if (!about) return !note.stop_id && !note.catch_id;
  return "stop_id" in about ? note.stop_id === about.stop_id : note.catch_id === about.catch_id;
};

/** What was noted of an outing, or of a stop or a fish of it. It goes the way of the taps: kept on the device first, and sent
 * when there is signal.
 */
export function Notes({ angler, ledger, about, title }: Props) {
  const notes = useNotes(angler, ledger).filter((one) => isOf(one, about));
  const [draft, setDraft] = useState<{ id: string | null; text: string } | null>(null);
  const [dropped, setDropped] = useState<Note | null>(null);
  const [failed, setFailed] = useState(false);
  const keep = (id: string, at: string, text: string, gone: boolean) =>
    write(angler, "notes", id, { outing_id: ledger.outing.id, ...about, at, text, gone }).then(
      () => {
        setFailed(false);
        void flush(angler);
      },
      () => setFailed(true),
    );
  const save = () => {
    const text = draft?.text.trim();
    if (!draft || !text) return;
    const before = notes.find((one) => one.id === draft.id);
    void keep(before?.id ?? newId(), before?.at ?? new Date().toISOString(), text, false).then(() =>
      setDraft(null),
    );
  };
  const written = (
    <>
      <ul className="space-y-2">
        {notes.map((one) => (
          <NoteLine
            key={one.id}
            note={one}
            onEdit={() => setDraft({ id: one.id, text: one.text })}
            onDrop={() => {
              setDropped(one);
              void keep(one.id, one.at, one.text, true);
            }}
          />
        ))}
      </ul>
      {draft ? (
        <div className="mt-2 space-y-2">
          <textarea
            aria-label="Note"
            className="min-h-28 w-full rounded-xl border border-line bg-ground p-3 text-base"
            maxLength={MOST}
            value={draft.text}
            onChange={(event) => setDraft({ ...draft, text: event.target.value })}
          />
          <div className="flex gap-2">
            <Button look="main" disabled={draft.text.trim() === ""} onClick={save}>
              Keep the note
            </Button>
            <Button onClick={() => setDraft(null)}>Leave it</Button>
          </div>
        </div>
      ) : (
        <Button
          className={about ? "px-2" : "mt-2"}
          look={about ? "quiet" : "plain"}
          onClick={() => setDraft({ id: null, text: "" })}
        >
          {title ?? "Add a note"}
        </Button>
      )}
      {dropped && (
        <Button
          className="mt-2"
          onClick={() => {
            setDropped(null);
            void keep(dropped.id, dropped.at, dropped.text, false);
          }}
        >
          Put the note back
        </Button>
      )}
      {failed && <Trouble error={new Error("This device could not keep that. Free some space.")} />}
    </>
  );
  return about ? <div className="print:hidden">{written}</div> : <Panel title="Notes">{written}</Panel>;
}

function NoteLine({ note, onEdit, onDrop }: { note: Note; onEdit: () => void; onDrop: () => void }) {
  const { clock } = useUnits();
  return (
    <li className="flex flex-wrap items-start gap-x-2">
      <p className="min-w-0 grow basis-60 break-words whitespace-pre-line">
        {note.text} <span className="text-sm text-soft">{clock(note.at)}</span>
      </p>
      <Button look="quiet" className="px-2" onClick={onEdit}>
        Change
      </Button>
      <Button look="quiet" className="px-2" onClick={onDrop}>
        Delete
      </Button>
    </li>
  );
}
