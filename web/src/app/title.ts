import { useEffect } from "react";
import { useLocation } from "wouter";

/** What the screens are called in a tab. */
const TITLES: Record<string, string> = {
  read: "Read",
  rig: "Rig",
  drift: "Drift",
  log: "Log",
  build: "How to tie it",
  compare: "Two rigs",
  beat: "Today",
  learn: "Learn",
  right: "How right it was",
  ledger: "Ledger",
  practice: "Practice",
  trade: "Words, knots, casts",
  box: "Box",
  rivers: "Rivers",
  account: "Account",
  shared: "Shared with you",
  letters: "Letters",
  confirm: "Confirm your address",
  reset: "A new password",
};

/** Call the tab by the screen, and by the place where that has a name. */
export function useTitle(place?: string): void {
  const path = useLocation()[0].split("/");
  const screen = TITLES[path.at(path[1] === "lie" ? -1 : 1) ?? ""];
  const title = [place, screen, "Deriva"].filter(Boolean).join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
