/**
 * The way back, on a phone a stroke of the thumb: it closes what lies over a page, and leaves the page where nothing does.
 *
 * An entry of the page's own address is put into the browser's history for it once something opens, and used again by whatever opens
 * next there. It is never taken out as something closes: the browser would go back while the app may be on its way to the next page.
 */
import { useEffect, useEffectEvent } from "react";

const open: (() => void)[] = [];

interface Place {
  spare: boolean;
  href: string;
}

const place = (): Place => ({
  spare: (history.state as { spare?: boolean } | null)?.spare === true,
  href: location.href,
});

let here = place();

function putSpare(): void {
  if (!place().spare) history.pushState({ spare: true }, "");
  here = place();
}

addEventListener("popstate", () => {
  const left = here;
  here = place();
  if (!left.spare || here.spare || left.href !== here.href) return;
  const close = open.at(-1);
  if (!close) return history.back(); // the spare entry is not to be felt: on to where one came from
  close();
  // what asks before it closes, or lies over something else that is open, is closed by the next way back
  setTimeout(() => open.length > 0 && putSpare());
});
// the app's own ways on and back in place are told of under these names by the router
for (const way of ["pushState", "replaceState"])
  addEventListener(way, () => {
    here = place();
  });

/** While this is drawn and `wanted`, the way back calls `close` and leads nowhere. */
export function useBack(close: () => void, wanted = true): void {
  const closed = useEffectEvent(close);
  useEffect(() => {
    if (!wanted) return;
    const one = () => closed();
    open.push(one);
    putSpare();
    return () => {
      open.splice(open.indexOf(one), 1);
    };
  }, [wanted]);
}
