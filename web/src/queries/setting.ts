/** A rig under the sliders: worked out as they move, and on the rod as soon as it is worked out. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { Ranked, Situation, Tuning } from "../api/client";
import { take } from "../local/inhand";
import { useLaidAhead, useTune, tuned as workedOut } from "./rigs";

/**
 * What is set at a lie, and what follows from it. Looked at is not chosen: what hangs on the rod stays until
 * something is set. Whoever walks on before the answer is there has chosen all the same.
 */
export function useTuning(lie: string, situation: Situation, beginning: () => Tuning | null) {
  const [tuning, setTuning] = useState(beginning);
  const [unmoved, setUnmoved] = useState(tuning);
  const tuned = useTune(lie, situation, tuning);
  useLaidAhead(lie, situation, unmoved);
  const owed = useRef<{ tuning: Tuning; at: string } | null>(null);
  const { data, isPlaceholderData } = tuned;
  useEffect(() => {
    if (!data || isPlaceholderData || !owed.current || owed.current.tuning !== tuning) return;
    void take(lie, data, owed.current);
    owed.current = null;
  }, [data, isPlaceholderData, tuning, lie]);
  const left = useRef(() => {});
  left.current = () => {
    const set = owed.current;
    if (set)
      workedOut(lie, situation, set.tuning).then(
        (answer) => take(lie, answer, set),
        () => undefined, // it cannot hang, or nobody answers: what hung before hangs still
      );
  };
  useEffect(() => () => left.current(), []);
  /** ``known``: the rig so set has been worked out already, and is on the rod at once. */
  const set = useCallback(
    (to: Tuning | null, known?: Ranked) => {
      owed.current = to && !known ? { tuning: to, at: new Date().toISOString() } : null;
      if (known) {
        void take(lie, known);
        setUnmoved(to);
      }
      setTuning(to);
    },
    [lie],
  );
  return { tuning, tuned, set };
}
