import { useSyncExternalStore } from "react";
import { roadCarries, watchCarrying } from "../api/road";

/** Whether there is signal, and something comes of what is asked. */
export const useOnline = (): boolean => useSyncExternalStore(watchCarrying, roadCarries);
