import { useEffect } from "react";

/** Keep the screen lit while fishing; where the browser will not, it goes dark as it always does. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !navigator.wakeLock) return;
    let lock: WakeLockSentinel | null = null;
    let done = false;
    const ask = () => {
      if (document.visibilityState !== "visible") return; // let go of by the browser when it was put away
      navigator.wakeLock.request("screen").then(
        (held) => {
          if (done) void held.release();
          else lock = held;
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      done = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, [on]);
}
