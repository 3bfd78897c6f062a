/** Whether the bank has a phone's screen to itself: no header, no ribbon, no steps while one fishes. */
import { useLayoutEffect, useSyncExternalStore } from "react";

let alone = false;
const heard = new Set<() => void>();
const tell = (now: boolean) => {
  alone = now;
  for (const each of heard) each();
};

export const useBankAlone = (): boolean =>
  useSyncExternalStore(
    (changed) => {
      heard.add(changed);
      return () => heard.delete(changed);
    },
    () => alone,
  );

/** Take the screen for as long as this is shown and `wanted`. */
export function useAloneWhile(wanted: boolean): void {
  useLayoutEffect(() => {
    if (!wanted) return;
    tell(true);
    return () => tell(false);
  }, [wanted]);
}
