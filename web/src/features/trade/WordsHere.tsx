import { useCallback, useState } from "react";
import { brought } from "../../ui/brought";
import { Button } from "../../ui/parts";

/** What is explained comes when it is asked for. */
const words = brought(() => import("./WordsOverlay"));
const WordsOverlay = words.part("default");

/** At the end of every screen: its words of the trade can be tapped, once this is asked for. */
export function WordsHere() {
  const [on, setOn] = useState(false);
  const done = useCallback(() => setOn(false), []);
  return (
    <div data-words>
      <Button
        look="quiet"
        aria-pressed={on}
        onClick={() => (on ? done() : words.bring().then(() => setOn(true)))}
      >
        What do these words mean?
      </Button>
      {on && <WordsOverlay onDone={done} />}
    </div>
  );
}
