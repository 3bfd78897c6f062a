import { useEffect, useState } from "react";
import { Link } from "wouter";
import { address } from "../../app/addresses";
import type { Angler } from "../../local/angler";
import { waiting } from "../../local/outbox";
import {
  useEndSession,
  useLeaving,
  usePassword,
  useSessions,
  useSharedWithMe,
  useShares,
  useSharing,
  useSignOut,
} from "../../queries/account";
import { useSession } from "../../queries/angler";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { day } from "../../units/units";
import { faultOf, Rest, TextField } from "../setup/fields";
import { AskOnce } from "./AskOnce";

export function AccountScreen() {
  const angler = useSession().data?.angler;
  if (!angler) return <Working what="Opening the account" />;
  return (
    <div className="mx-auto grid max-w-5xl grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-2">
      <div className="space-y-4">
        <Who angler={angler} />
        {!angler.demo && <Password />}
        <Sessions />
      </div>
      <div className="space-y-4">
        <Shares />
        <Panel title="All that is yours">
          <p className="text-soft">Places, readings, outings, drifts, fish and box as one JSON file.</p>
          <a
            className="mt-2 grid min-h-14 place-items-center rounded-xl border border-line px-4"
            href="/api/export"
            download
          >
            Save it as a file
          </a>
        </Panel>
        {!angler.demo && <Leaving angler={angler} />}
      </div>
    </div>
  );
}

function Who({ angler }: { angler: Angler }) {
  const signOut = useSignOut();
  const [changing, setChanging] = useState(false);
  const [unsent, setUnsent] = useState(0);
  useEffect(() => {
    waiting(angler.id).then(setUnsent, () => undefined);
  }, [angler.id]);
  return (
    <Panel>
      <h1 className="text-2xl font-bold">{angler.name}</h1>
      {angler.home_river && <p className="text-soft">at home on the {angler.home_river}</p>}
      {unsent > 0 && (
        <p className="text-caution">
          {unsent} written here wait for signal. They stay on this device and are sent when you sign in again.
        </p>
      )}
      <Button className="mt-2 w-full" onClick={() => setChanging(true)}>
        Units, home river, school
      </Button>
      {changing && (
        <AskOnce angler={angler} title="Units, home river, school" open onClose={() => setChanging(false)} />
      )}
      {signOut.isError && <Trouble error={signOut.error} />}
      <Button className="mt-2 w-full" onClick={() => signOut.mutate()} disabled={signOut.isPending}>
        Sign out
      </Button>
    </Panel>
  );
}

function Password() {
  const change = usePassword();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  return (
    <Panel title="Password">
      <div className="space-y-3">
        <TextField
          label="Old password"
          type="password"
          complete="current-password"
          value={old}
          onChange={setOld}
          error={faultOf(change.error, "old")}
        />
        <TextField
          label="New password, 12 letters or more"
          type="password"
          complete="new-password"
          value={fresh}
          onChange={setFresh}
          error={faultOf(change.error, "new") ?? faultOf(change.error, "password")}
        />
        <Rest error={change.error} fields={["old", "new", "password"]} />
        {change.data && <p role="status">Changed. Every other session has ended.</p>}
        <Button className="w-full" onClick={() => change.mutate({ old, new: fresh })}>
          Change it
        </Button>
      </div>
    </Panel>
  );
}

/** What a browser calls itself, short. */
const browser = (agent: string): string => {
  const name = /(Firefox|Edg|Chrome|Safari)/.exec(agent)?.[1] ?? "a browser";
  const on = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/.exec(agent)?.[1];
  return `${name === "Edg" ? "Edge" : name}${on ? ` on ${on}` : ""}`;
};

function Sessions() {
  const sessions = useSessions();
  const end = useEndSession();
  const { clock } = useUnits();
  return (
    <Panel title="Signed in on">
      {sessions.isError && <Trouble error={sessions.error} />}
      <ul className="divide-y divide-line">
        {sessions.data?.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-2 py-2">
            <span>
              {browser(one.agent)} {one.here && <b>(this one)</b>}
              <span className="block text-sm text-soft">
                last seen {day(one.seen_at)}, {clock(one.seen_at)}
              </span>
            </span>
            {!one.here && <Button onClick={() => end.mutate(one.id)}>End</Button>}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

function Shares() {
  const shares = useShares();
  const shared = useSharedWithMe();
  const { revoke } = useSharing();
  const { show } = useUnits();
  return (
    <Panel title="Shared">
      {shares.data?.length === 0 && shared.data?.length === 0 && (
        <p className="text-soft">Nothing. A beat is shared on its Today page, an outing in the ledger.</p>
      )}
      <ul className="divide-y divide-line">
        {shares.data?.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-2 py-2">
            <span className="min-w-0">
              {one.name} <span className="text-soft">with</span> {one.reader}
              <span className="block text-sm text-soft">
                {one.blur_m > 0 ? `place moved by up to ${show(one.blur_m, "km")}` : "exact place"}
              </span>
            </span>
            <Button onClick={() => revoke.mutate(one.id)}>Take back</Button>
          </li>
        ))}
        {shared.data?.map((one) => (
          <li key={one.id} className="py-2">
            <Link
              to={address.shared(one.id)}
              className="flex min-h-12 items-center underline underline-offset-4"
            >
              {one.owner}: {one.name}
            </Link>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

function Leaving({ angler }: { angler: Angler }) {
  const { leave, stay } = useLeaving();
  const { clock } = useUnits();
  const [password, setPassword] = useState("");
  const [sure, setSure] = useState(false);
  if (angler.leaves_at)
    return (
      <Panel title="Leaving">
        <p className="font-semibold text-stop">
          On {day(angler.leaves_at)}, {clock(angler.leaves_at)}, everything of yours is removed.
        </p>
        <Button look="main" className="mt-2 w-full" onClick={() => stay.mutate()}>
          Keep the account
        </Button>
      </Panel>
    );
  return (
    <Panel title="Leaving">
      <p className="text-soft">
        After two weeks everything is removed for good: places, log, box, shares. Save it as a file first.
      </p>
      {sure && (
        <div className="mt-2 space-y-2">
          <TextField
            label="Your password"
            type="password"
            complete="current-password"
            value={password}
            onChange={setPassword}
          />
          <Rest error={leave.error} fields={[]} />
        </div>
      )}
      <Button
        className="mt-2 w-full text-stop"
        onClick={() => (sure ? leave.mutate(password) : setSure(true))}
      >
        {sure ? "Remove everything in two weeks" : "Leave Deriva"}
      </Button>
    </Panel>
  );
}
