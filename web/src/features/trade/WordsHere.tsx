import { lazy, Suspense, useCallback, useState } from "react";
import { Button } from "../../ui/parts";

/** What is explained comes when it is asked for. */
const WordsOverlay = lazy(() => import("./WordsOverlay"));

/** At the end of every screen: its words of the trade can be tapped, once this is asked for. */
export function WordsHere() {
  const [on, setOn] = useState(false);
  const done = useCallback(() => setOn(false), []);
  return (
    <div data-words>
      <Button look="quiet" aria-pressed={on} onClick={() => setOn(!on)}>
        What do these words mean?
      </Button>
      {on && (
        <Suspense>
          <WordsOverlay onDone={done} />
        </Suspense>
      )}
    </div>
  );
}
