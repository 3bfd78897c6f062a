/** What stands before the app: who is new here waits for no more than this. The rest comes once somebody is known. */

import { createContext, useContext, useEffect, useState } from "react";
import { useLocation } from "wouter";
import { hasSignal } from "../api/road";
import { useSession } from "../queries/angler";
import { brought } from "../ui/brought";
import { Trouble, Working } from "../ui/parts";
import { client } from "./client";
import { Screens, useShown } from "./screens";
import { useTitle } from "./title";

/** Screens that need nobody: what letters lead to, and the letters of the demo. */
const OPEN = ["/confirm", "/reset", "/letters"];

/** Nobody who is known waits for it. */
const welcome = brought(() => import("../features/welcome/Welcome"));
const Welcome = welcome.part("Welcome");
export const bringWelcome = welcome.bring;

let opened: Promise<unknown> | undefined;

/** Fetch the app, and put back what was last answered: it opens without signal. A store that cannot be read keeps nobody out. */
function openApp(): Promise<typeof import("./shell")> {
  const app = import("./shell");
  opened ??= import("../local/answers").then(async ({ unpack, recall, remember }) => {
    await unpack(client)
      .then(() => recall(client))
      .catch(() => undefined);
    remember(client, (kinds) => {
      document.documentElement.dataset.kept = kinds.join(" ");
    });
  });
  opened.catch(() => {
    opened = undefined; // the files did not come: it is tried again
  });
  return opened.then(() => app);
}

const app = brought(openApp);
const Shell = app.part("Shell");
/** Have the app at hand before it is drawn. */
export const bringApp = app.bring;

/** Whether something was kept on this device when it was opened: whose it is may then be known without asking. */
export const Known = createContext(true);

export function Door() {
  const [path] = useLocation();
  const session = useSession();
  const [inside, enter] = useState(useContext(Known));
  const known = Boolean(session.data?.angler);
  useEffect(() => {
    // and stays when the session ends: logging goes on. Where the app's files do not come, that is said inside
    if (known) void bringApp().then(() => enter(true));
  }, [known]);
  if (OPEN.includes(path)) return <Open />;
  if (!inside) return known ? <Working what="Opening" here /> : <Threshold />;
  return <Shell />;
}

function Open() {
  useTitle();
  return <Screens at={useShown()} />;
}

/** Nobody is signed in, or nobody could be asked who is. */
export function Threshold() {
  const session = useSession();
  useTitle();
  if (session.data) return <Welcome session={session.data} />;
  if (session.isPending && session.fetchStatus !== "paused") return <Working what="Opening" />;
  return (
    <main className="p-4">
      <Trouble
        error={
          session.error ??
          new Error(
            `${hasSignal() ? "No answer" : "No signal"}, and nothing is kept on this device yet. Open it once at home.`,
          )
        }
        retry={() => session.refetch()}
      />
    </main>
  );
}
