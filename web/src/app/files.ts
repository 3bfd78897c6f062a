import type { QueryClient } from "@tanstack/react-query";
import { roadCarries } from "../api/road";

const AT_REST_MS = 500;

/** Keep the files of the app for the next time, once what this time asks for has come: there are many, and they would be in its way. */
export function keepFiles(client: QueryClient): void {
  if (!("serviceWorker" in navigator)) return;
  let rest: ReturnType<typeof setTimeout> | undefined;
  const look = () => {
    if (client.isFetching() > 0 || !roadCarries()) {
      clearTimeout(rest);
      rest = undefined;
    } else rest ??= setTimeout(keep, AT_REST_MS);
  };
  const keep = () => {
    stop();
    navigator.serviceWorker.register("/sw.js").catch(() => undefined); // where the browser keeps none, it opens with signal
  };
  const stop = client.getQueryCache().subscribe(look);
}
