import { Link, useRouterState } from "@tanstack/react-router";

const TABS = [
  ["/learn", "Ask the log"],
  ["/ledger", "Ledger"],
  ["/right", "How right"],
] as const;

/** The two ways to read what was logged. */
export function LogTabs() {
  const path = useRouterState({ select: (state) => state.location.pathname });
  return (
    <nav aria-label="The log" className="flex flex-wrap gap-2 py-2">
      {TABS.map(([to, text]) => (
        <Link
          key={to}
          to={to}
          aria-current={path === to ? "page" : undefined}
          className={`grid min-h-12 place-items-center rounded-full px-4 ${path === to ? "bg-ink font-semibold text-ground" : "border border-line bg-paper"}`}
        >
          {text}
        </Link>
      ))}
    </nav>
  );
}
