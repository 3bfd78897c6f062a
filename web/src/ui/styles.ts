/**
 * In place of `react-style-singleton`, which dialogs use to keep the page behind them from scrolling: it adds a <style> element,
 * and the content policy lets no style in that did not come as a file. A sheet that a script makes is no such element.
 */
import { useInsertionEffect } from "react";

/** A component that has its styles in force while it is there; the same styles from two of them are there once. */
export function styleSingleton() {
  const sheet = typeof CSSStyleSheet === "undefined" ? null : new CSSStyleSheet();
  let held = 0;
  // biome-ignore lint/correctness/noComponentHookFactories: it is what the dialogs call, once a module
  return function Styles({ styles, dynamic }: { styles: string; dynamic?: boolean }): null {
    // biome-ignore lint/correctness/useExhaustiveDependencies: styles are set anew only where they are said to change
    useInsertionEffect(() => {
      if (!sheet) return;
      sheet.replaceSync(styles);
      if (held === 0) document.adoptedStyleSheets.push(sheet);
      held += 1;
      return () => {
        held -= 1;
        if (held === 0)
          document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
      };
    }, [dynamic ? styles : undefined]);
    return null;
  };
}
