/** Whether there is a way to the service, as far as is known. */
import { useSyncExternalStore } from "react";
import { roadIsOpen, watchRoad } from "./outbox";

const signal = (changed: () => void) => {
  addEventListener("online", changed);
  addEventListener("offline", changed);
  return () => {
    removeEventListener("online", changed);
    removeEventListener("offline", changed);
  };
};

/** Whether there is signal, as far as the browser knows. */
export const useOnline = (): boolean => useSyncExternalStore(signal, () => navigator.onLine);

/** Whether there is signal, and what was last sent arrived. */
export function useRoad(): boolean {
  const online = useOnline();
  return useSyncExternalStore(watchRoad, roadIsOpen) && online;
}
