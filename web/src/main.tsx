import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app/theme.css";
import { onlineManager, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { beatsQuery, sessionQuery } from "./api/asks";
import { hearBrowser, roadCarries, watchCarrying } from "./api/road";
import { client } from "./app/client";
import { bringApp, Known } from "./app/door";
import { router, screens } from "./app/router";
import { keepFilesAtRest } from "./local/files";
import { everKept } from "./local/kept";

const place = document.getElementById("root");
const open = (known: boolean) =>
  place &&
  createRoot(place).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Known value={known}>
          <RouterProvider router={router} />
        </Known>
      </QueryClientProvider>
    </StrictMode>,
  );
/** Ask for what every screen needs while the screen's own files are on their way. Whoever uses an answer says what went wrong. */
const ask = async () => {
  const session = await client.fetchQuery(sessionQuery);
  if (!session.angler) return;
  if (location.pathname === "/") void screens.today().catch(() => undefined); // where one is led from here
  await client.prefetchQuery(beatsQuery);
};
hearBrowser();
onlineManager.setOnline(roadCarries()); // it would take itself to be online until told otherwise
onlineManager.setEventListener((told) => watchCarrying(() => told(roadCarries())));
const begin = async () => {
  const known = await everKept();
  // who asks for a page of the app will be known to the service, if not here
  const app = known || location.pathname !== "/" ? bringApp() : null;
  if (known) await app; // what was last answered comes first, so that the app opens without signal
  keepFilesAtRest(client);
  void ask().catch(() => undefined);
  open(known);
};
void begin();
