import { Link, useLocation } from "wouter";

const TABS = [
  ["/learn", "Ask the log"],
  ["/ledger", "Ledger"],
  ["/right", "How right"],
  ["/practice", "Practice"],
] as const;

/** What is learned from: the log, and a river that is made up. */
export function LogTabs() {
  const path = useLocation()[0];
  return (
    <nav aria-label="The log" className="grid grid-cols-4 gap-1.5 py-2 lg:flex lg:gap-2">
      {TABS.map(([to, text]) => (
        <Link
          key={to}
          to={to}
          aria-current={path === to ? "page" : undefined}
          className={`grid min-h-12 place-items-center rounded-full px-1 text-center text-[min(1rem,3.8vw)] leading-tight lg:px-4 ${path === to ? "bg-ink font-semibold text-ground" : "border border-line bg-paper"}`}
        >
          {text}
        </Link>
      ))}
    </nav>
  );
}
