import { useCallback, useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { useBack } from "../../ui/back";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { type Word, wordsIn } from "./trade";
import { WordPicture } from "./WordPicture";

interface Place {
  word: Word;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Where words of the trade stand on this screen, in pixels of the page. */
function places(): Place[] {
  const main = document.querySelector("main");
  if (!main) return [];
  const found: Place[] = [];
  const walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (node.parentElement?.closest("textarea, [data-words], .sr-only, [aria-hidden=true]")) continue;
    for (const { word, from, to } of wordsIn(node.textContent ?? "")) {
      const range = document.createRange();
      range.setStart(node, from);
      range.setEnd(node, to);
      const box = range.getClientRects()[0];
      if (box && box.width > 0)
        found.push({
          word,
          left: box.left + scrollX,
          top: box.top + scrollY,
          width: box.width,
          height: box.height,
        });
    }
  }
  return found;
}

/** Every word of the trade on the screen, to be tapped. */
export default function WordsOverlay({ onDone }: { onDone: () => void }) {
  const [shown, setShown] = useState(places);
  const [word, setWord] = useState<Word | null>(null);
  const look = useCallback(() => setShown(places()), []);
  useBack(onDone);
  useEffect(() => {
    // what moves the words moves what lies on them; and some come later, into the place that is reserved for them
    const watch = new ResizeObserver(look);
    watch.observe(document.querySelector("main") ?? document.body);
    let frame = 0;
    const come = new MutationObserver(() => {
      frame ||= requestAnimationFrame(() => {
        frame = 0;
        look();
      });
    });
    const app = document.querySelector("#root");
    if (app) come.observe(app, { childList: true, subtree: true, characterData: true });
    const leave = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !document.querySelector("[role=dialog]")) onDone();
    };
    addEventListener("keydown", leave);
    return () => {
      watch.disconnect();
      come.disconnect();
      cancelAnimationFrame(frame);
      removeEventListener("keydown", leave);
    };
  }, [look, onDone]);
  return (
    <>
      {createPortal(
        <section aria-label="Words on this screen" data-words>
          {shown.map((one) => (
            <button
              key={`${one.left} ${one.top}`}
              type="button"
              aria-label={`what is ${one.word.word}?`}
              className="absolute z-10 rounded-sm border-b-3 border-signal bg-signal/10"
              style={{ left: one.left, top: one.top, width: one.width, height: one.height + 2 }}
              onClick={() => setWord(one.word)}
            />
          ))}
          <div className="fixed inset-x-0 bottom-[calc(80px+var(--below))] z-20 mx-auto w-fit lg:bottom-4">
            <Button look="main" onClick={onDone}>
              {shown.length > 0 ? "Tap a word, or be done" : "No word of the trade on this screen"}
            </Button>
          </div>
        </section>,
        document.body,
      )}
      {word && (
        <Sheet title={word.word} open onClose={() => setWord(null)}>
          <WordPicture drawing={word.drawing} />
          <p className="text-lg">{word.meaning}</p>
        </Sheet>
      )}
    </>
  );
}
