import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app/theme.css";
import { onlineManager, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { beatsQuery, sessionQuery } from "./api/asks";
import { hearBrowser, roadCarries, watchCarrying } from "./api/road";
import { client } from "./app/client";
import { bringApp, bringWelcome, Door, Known } from "./app/door";
import { today } from "./app/screens";
import { atRest, keepFiles } from "./local/files";
import { everKept } from "./local/kept";
import { bringSheets } from "./ui/sheet";

const place = document.getElementById("root");
const open = (known: boolean) =>
  place &&
  createRoot(place).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Known value={known}>
          <Door />
        </Known>
      </QueryClientProvider>
    </StrictMode>,
  );
/** Ask for what every screen needs while the screen's own files are on their way. Whoever uses an answer says what went wrong. */
const ask = async () => {
  const session = await client.fetchQuery(sessionQuery);
  if (!session.angler) return;
  if (location.pathname === "/") void today.bring(); // where one is led from here
  await client.prefetchQuery(beatsQuery);
};
hearBrowser();
onlineManager.setOnline(roadCarries()); // it would take itself to be online until told otherwise
onlineManager.setEventListener((told) => watchCarrying(() => told(roadCarries())));
const begin = async () => {
  const known = await everKept();
  // who asks for a page of the app will be known to the service, if not here
  const first = known || location.pathname !== "/" ? bringApp() : bringWelcome();
  if (known) await first; // what was last answered comes first, so that the app opens without signal
  void first.then(() =>
    atRest(client, () => {
      keepFiles();
      void bringSheets();
    }),
  );
  void ask().catch(() => undefined);
  open(known);
};
void begin();
