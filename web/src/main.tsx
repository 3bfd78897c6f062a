import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app/theme.css";
import { onlineManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { beatsQuery, sessionQuery } from "./api/asks";
import { Refused } from "./api/client";
import { hearBrowser, roadCarries, watchCarrying } from "./api/road";
import { router } from "./app/router";
import { recall, remember } from "./local/answers";
import { unpack } from "./local/pack";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      gcTime: 12 * 3600 * 1000, // a day on the bank
      // what the service refuses it will refuse again; a lost connection may come back
      retry: (count, error) => !(error instanceof Refused) && count < 2,
    },
  },
});

const place = document.getElementById("root");
const open = () =>
  place &&
  createRoot(place).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
/** Ask for what every screen needs while the screen's own files are on their way. Whoever uses an answer says what went wrong. */
const ask = async () => {
  const session = await client.fetchQuery(sessionQuery);
  if (session.angler) await client.prefetchQuery(beatsQuery);
};
hearBrowser();
onlineManager.setOnline(roadCarries()); // it would take itself to be online until told otherwise
onlineManager.setEventListener((told) => watchCarrying(() => told(roadCarries())));
// what was last answered comes first, so that the app opens without signal; a store that cannot be read keeps nobody out
unpack(client)
  .then(() => recall(client))
  .catch(() => undefined)
  .then(() => {
    remember(client, (kinds) => {
      document.documentElement.dataset.kept = kinds.join(" ");
    });
    void ask().catch(() => undefined);
    open();
  });
