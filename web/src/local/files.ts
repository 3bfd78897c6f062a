/** The app's own files, kept by the service worker: it opens with no signal. */
import type { QueryClient } from "@tanstack/react-query";
import { roadCarries } from "../api/road";

/** Have them fetched and kept. Where the browser keeps none, the app opens with signal. */
export const keepFiles = (): void => void navigator.serviceWorker?.register("/sw.js").catch(() => undefined);

const AT_REST_MS = 500;

/** Fetch what can wait once what is asked for at the start has come: there is much of it, and it would be in its way. */
export function atRest(client: QueryClient, fetchIt: () => void): void {
  let rest: ReturnType<typeof setTimeout> | undefined;
  const look = () => {
    if (client.isFetching() > 0 || !roadCarries()) {
      clearTimeout(rest);
      rest = undefined;
    } else
      rest ??= setTimeout(() => {
        stop();
        fetchIt();
      }, AT_REST_MS);
  };
  const stop = client.getQueryCache().subscribe(look);
  look();
}
