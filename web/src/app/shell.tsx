import { Link, Outlet, useNavigate, useParams, useRouterState } from "@tanstack/react-router";
import { Archive, BookOpen, Eye, Fish, Moon, Sun, Waves, Waypoints } from "lucide-react";
import { useEffect, useState } from "react";
import { useBeats, useChangeUnits, useSession } from "../api/hooks";
import { Ribbon } from "../draw/ribbon";
import { Welcome } from "../features/welcome/Welcome";
import { adoptOpenOuting } from "../local/logbook";
import { flush } from "../local/outbox";
import { Trouble, Working } from "../ui/parts";
import { UnitsContext } from "../units/context";
import { Shortcuts, useKeys } from "./shortcuts";

const STEPS = [
  ["read", "Read", Eye],
  ["rig", "Rig", Waypoints],
  ["drift", "Drift", Waves],
  ["log", "Log", Fish],
] as const;
export type Step = (typeof STEPS)[number][0];

const RETRY_MS = 4000;

/** Send what is waiting: now, when signal or focus returns, and every few seconds. */
function useSending(angler: string | undefined) {
  useEffect(() => {
    if (!angler) return;
    const send = () => void flush(angler);
    adoptOpenOuting(angler).catch(() => undefined); // without signal the device's own log stands
    send();
    const timer = setInterval(send, RETRY_MS);
    addEventListener("online", send);
    addEventListener("focus", send);
    return () => {
      clearInterval(timer);
      removeEventListener("online", send);
      removeEventListener("focus", send);
    };
  }, [angler]);
}

function useTheme(): ["day" | "dusk", () => void] {
  const [theme, setTheme] = useState<"day" | "dusk">(() =>
    localStorage.getItem("theme") === "dusk" ? "dusk" : "day",
  );
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("theme", theme);
  }, [theme]);
  return [theme, () => setTheme(theme === "day" ? "dusk" : "day")];
}

export function Shell() {
  const session = useSession();
  const beats = useBeats(Boolean(session.data?.angler));
  const units = useChangeUnits();
  const [theme, toggleTheme] = useTheme();
  const { lieId } = useParams({ strict: false });
  const path = useRouterState({ select: (state) => state.location.pathname });
  const navigate = useNavigate();
  const angler = session.data?.angler;
  const lies = beats.data?.flatMap((beat) => beat.lies.map((one) => one.id)) ?? [];
  const lie = lieId ?? lies[0];
  const step = (path.split("/").at(-1) ?? "read") as Step;
  const beside = ["build", "compare"].includes(path.split("/").at(-1) ?? "");
  const onLie = STEPS.some(([key]) => key === step) && lieId !== undefined;
  const goTo = (to: string | undefined, at: Step) =>
    to && navigate({ to: `/lie/$lieId/${at}` as "/lie/$lieId/read", params: { lieId: to } });
  useSending(angler?.id);
  useKeys({
    ...Object.fromEntries(STEPS.map(([key], k) => [String(k + 1), () => goTo(lie, key)])),
    "5": () => navigate({ to: "/ledger" }),
    "[": onLie ? () => goTo(lies[lies.indexOf(lieId) - 1], step) : undefined,
    "]": onLie ? () => goTo(lies[lies.indexOf(lieId) + 1], step) : undefined,
  });
  if (session.isPending && session.fetchStatus !== "paused") return <Working what="Opening" />;
  if (!session.data)
    return (
      <main className="p-4">
        <Trouble
          error={
            session.error ??
            new Error("No signal, and nothing is kept on this device yet. Open it once at home.")
          }
          retry={() => session.refetch()}
        />
      </main>
    );
  if (!angler) return <Welcome demo={session.data.demo_start} />;
  return (
    <UnitsContext value={angler.units}>
      <div className="flex min-h-full flex-col pb-20 lg:pb-0">
        <header className="flex flex-wrap items-center gap-x-6 px-3 pt-2 lg:px-6">
          <Link to="/" className="flex min-h-12 items-center text-2xl font-bold tracking-tight">
            Deriva
          </Link>
          <nav
            aria-label="Steps"
            className="fixed inset-x-0 bottom-0 z-20 grid grid-cols-5 border-t border-line bg-paper lg:static lg:flex lg:gap-1 lg:border-0 lg:bg-transparent"
          >
            {STEPS.map(([key, text, Icon]) => {
              const on = (onLie && key === step) || (beside && key === "rig");
              return (
                <Link
                  key={key}
                  to={lie ? (`/lie/$lieId/${key}` as "/lie/$lieId/read") : "/"}
                  params={{ lieId: lie ?? "" }}
                  aria-current={on ? "page" : undefined}
                  className={`flex min-h-18 flex-col items-center justify-center gap-0.5 text-sm lg:min-h-12 lg:flex-row lg:gap-2 lg:rounded-full lg:px-4 lg:text-base ${on ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
                >
                  <Icon aria-hidden size={22} />
                  {text}
                </Link>
              );
            })}
            <Link
              to="/ledger"
              aria-current={path.startsWith("/ledger") ? "page" : undefined}
              className={`flex min-h-18 flex-col items-center justify-center gap-0.5 text-sm lg:min-h-12 lg:flex-row lg:gap-2 lg:rounded-full lg:px-4 lg:text-base ${path.startsWith("/ledger") ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
            >
              <BookOpen aria-hidden size={22} />
              Ledger
            </Link>
          </nav>
          <div className="ml-auto flex items-center gap-1">
            <Link
              to="/box"
              aria-current={path === "/box" ? "page" : undefined}
              className={`flex min-h-12 items-center gap-1.5 rounded-full px-3 text-sm ${path === "/box" ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
            >
              <Archive aria-hidden size={20} />
              Box
            </Link>
            <button
              type="button"
              className="min-h-12 rounded-full px-3 text-sm hover:bg-paper"
              onClick={() => units.mutate(angler.units === "metric" ? "us" : "metric")}
            >
              {angler.units === "metric" ? "m · °C" : "ft · °F"}
            </button>
            <Shortcuts />
            <button
              type="button"
              className="grid size-12 place-items-center rounded-full hover:bg-paper"
              onClick={toggleTheme}
              aria-label={theme === "day" ? "dusk colours" : "day colours"}
            >
              {theme === "day" ? <Moon aria-hidden size={20} /> : <Sun aria-hidden size={20} />}
            </button>
          </div>
        </header>
        {(onLie || beside || path.startsWith("/beat/")) && beats.data && (
          <Ribbon beats={beats.data} current={lieId ?? null} step={onLie ? step : beside ? "rig" : "read"} />
        )}
        <main className="mx-auto w-full max-w-7xl grow px-3 pb-6 lg:px-6">
          <Outlet />
        </main>
      </div>
    </UnitsContext>
  );
}
