/** Whether there is a way to the service, as far as is known. */
import { useEffect, useState, useSyncExternalStore } from "react";
import { useOnline } from "../ui/online";
import { roadIsOpen, watchRoad } from "./outbox";

const A_MOMENT_MS = 2000;

/** Whether something has been on its way for longer than a moment: signal that carries nothing is as good as none. */
export function useOverdue(what: string | null): boolean {
  const [overdue, setOverdue] = useState<string | null>(null);
  useEffect(() => {
    if (what === null) return;
    const timer = setTimeout(() => setOverdue(what), A_MOMENT_MS);
    return () => clearTimeout(timer);
  }, [what]);
  return what !== null && overdue === what;
}

/** Whether there is signal, and what was last sent arrived. */
export function useRoad(): boolean {
  const online = useOnline();
  return useSyncExternalStore(watchRoad, roadIsOpen) && online;
}
