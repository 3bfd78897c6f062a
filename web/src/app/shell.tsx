import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { Archive, BookOpen, Eye, Fish, Moon, Sun, User, Waves, Waypoints } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, Redirect, useLocation } from "wouter";
import { roadCarries, watchCarrying } from "../api/road";
import { Ribbon } from "../draw/ribbon";
import { Pictures } from "../features/files/Pictures";
import { WordsHere } from "../features/trade/WordsHere";
import { settle, useKeptAngler } from "../local/angler";
import { useStanding } from "../local/logbook";
import { flush, onHeard, waiting } from "../local/outbox";
import { device } from "../local/records";
import { useChangeUnits, useSession } from "../queries/angler";
import { useBeats } from "../queries/places";
import { brought } from "../ui/brought";
import { Button, Trouble, Working } from "../ui/parts";
import { UnitsContext } from "../units/context";
import { address } from "./addresses";
import { useBankAlone } from "./bank";
import { Threshold } from "./door";
import { Evicted } from "./evicted";
import { NoSignal } from "./NoSignal";
import { Screens, useShown } from "./screens";
import { Shortcuts, useKeys } from "./shortcuts";
import { useTitle } from "./title";
import { beatOf, useLie } from "./where";

/** What hardly any opening of the app begins with. */
const AskOnce = brought(() => import("../features/account/AskOnce")).part("AskOnce");
const SignInAgain = brought(() => import("../features/account/SignInAgain")).part("SignInAgain");

const STEPS = [
  ["read", "Read", Eye],
  ["rig", "Rig", Waypoints],
  ["drift", "Drift", Waves],
  ["log", "Log", Fish],
] as const;
export type Step = (typeof STEPS)[number][0];

const RETRY_MS = 4000;
const LISTEN_MS = 60_000;

/** Send what is waiting and hear what other devices wrote: now, when signal or focus returns, and every while. */
function useSending(angler: string | undefined) {
  const client = useQueryClient();
  useEffect(() => {
    if (!angler) return;
    let heard = 0;
    const send = async () => {
      const sent = await waiting(angler);
      if (!(await flush(angler))) return;
      heard = Date.now();
      if (sent > 0) await client.invalidateQueries({ queryKey: ["beats"] });
    };
    const deaf = onHeard((kinds) => {
      // a reading or a lie that the service now knows changes what a lie stands on; anything else only what was logged
      const stale =
        kinds.has("readings") || kinds.has("lies") || kinds.has("soundings")
          ? ["beats", "retired", "outings", "ledger", "learn"]
          : ["outings", "ledger", "learn"];
      for (const kind of stale) void client.invalidateQueries({ queryKey: [kind] });
    });
    const soon = () => void send().catch(() => undefined);
    const retry = async () => {
      if (Date.now() - heard > LISTEN_MS || (await waiting(angler)) > 0) soon();
    };
    soon();
    const timer = setInterval(() => void retry().catch(() => undefined), RETRY_MS);
    const stop = watchCarrying(() => roadCarries() && soon());
    addEventListener("focus", soon);
    return () => {
      deaf();
      clearInterval(timer);
      stop();
      removeEventListener("focus", soon);
    };
  }, [angler, client]);
}

/** Have what was taken along as new as it can be had. */
async function renew(client: QueryClient, angler: string): Promise<void> {
  if ((await device.packs.count()) === 0) return;
  const { renewEngine, renewPacks } = await import("../local/pack");
  await renewEngine();
  await renewPacks(client, angler);
}

function useTheme(): ["day" | "dusk", () => void] {
  const [theme, setTheme] = useState<"day" | "dusk">(() =>
    localStorage.getItem("theme") === "dusk" ? "dusk" : "day",
  );
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("theme", theme);
    // the bar that a phone draws above the page is of its colour
    const ground = getComputedStyle(document.documentElement).getPropertyValue("--ground").trim();
    document.querySelector("meta[name=theme-color]")?.setAttribute("content", ground);
  }, [theme]);
  return [theme, () => setTheme(theme === "day" ? "dusk" : "day")];
}

export function Shell() {
  const session = useSession();
  const beats = useBeats(Boolean(session.data?.angler));
  const units = useChangeUnits();
  const client = useQueryClient();
  const [theme, toggleTheme] = useTheme();
  const bank = useBankAlone();
  // where one is going, not what is still shown: the next step is of the lie that was just tapped
  const [path, navigate] = useLocation();
  const shown = useShown();
  const lieId = /^\/lie\/([^/]+)/.exec(path)?.[1];
  const kept = useKeptAngler();
  // the session may end on the bank: whose device it is stays known, logging goes on and waits for a sign-in
  const angler = session.data?.angler ?? kept ?? undefined;
  const ended = Boolean(session.data && !session.data.angler && kept);
  const [signingIn, setSigningIn] = useState(false);
  const lies = beats.data?.flatMap((beat) => beat.lies.map((one) => one.id)) ?? [];
  const lie = useLie(beats.data ?? [], path);
  const step = (path.split("/").at(-1) ?? "read") as Step;
  const beside = ["build", "compare"].includes(path.split("/").at(-1) ?? "");
  const inLog =
    path === "/learn" ||
    path === "/right" ||
    path.startsWith("/ledger") ||
    path.startsWith("/practice") ||
    path.startsWith("/trade");
  const onLie = STEPS.some(([key]) => key === step) && lieId !== undefined;
  const goTo = (to: string | undefined, at: Step) => to && navigate(address.lie(to, at));
  useSending(angler?.id);
  const lieName = beats.data?.flatMap((beat) => beat.lies).find((one) => one.id === lieId)?.name;
  const beatName = beats.data?.find((one) => path === `/beat/${one.id}`)?.name;
  useTitle(lieName ?? beatName);
  useKeys({
    ...Object.fromEntries(STEPS.map(([key], k) => [String(k + 1), () => goTo(lie, key)])),
    "5": () => navigate("/learn"),
    "[": onLie ? () => goTo(lies[lies.indexOf(lieId) - 1], step) : undefined,
    "]": onLie ? () => goTo(lies[lies.indexOf(lieId) + 1], step) : undefined,
  });
  useEffect(() => {
    if (session.data?.angler) void settle(client, session.data.angler).catch(() => undefined);
  }, [session.data, client]);
  const signedIn = session.data?.angler?.id;
  useEffect(() => {
    // it is tried again when the app is opened next
    if (signedIn) void renew(client, signedIn).catch(() => undefined);
  }, [signedIn, client]);
  if (!angler) return kept === undefined ? <Working what="Opening" here /> : <Threshold />;
  return (
    <UnitsContext value={angler.units}>
      <div className={`flex min-h-full flex-col lg:pb-0 ${bank ? "" : "pb-[80px]"}`}>
        <header
          className={`flex print:hidden flex-wrap items-center gap-x-2 px-3 pt-2 lg:px-6 ${bank ? "max-lg:hidden" : ""}`}
        >
          <div className="flex h-12 min-w-22 flex-col justify-center">
            <Link to="/" className="text-2xl leading-8 font-bold tracking-tight">
              Deriva
            </Link>
            <NoSignal />
          </div>
          <nav
            aria-label="Steps"
            className="fixed inset-x-0 bottom-0 z-20 grid grid-cols-5 border-t border-line bg-paper pb-(--below) lg:static lg:pb-0 lg:flex lg:gap-1 lg:border-0 lg:bg-transparent"
          >
            {STEPS.map(([key, text, Icon]) => {
              const on = (onLie && key === step) || (beside && key === "rig");
              return (
                <Link
                  key={key}
                  to={lie ? address.lie(lie, key) : "/"}
                  aria-current={on ? "page" : undefined}
                  className={`flex min-h-[72px] min-w-0 flex-col items-center justify-center gap-0.5 text-[min(0.875rem,4.4vw)] lg:min-h-12 lg:flex-row lg:gap-2 lg:rounded-full lg:px-4 lg:text-base ${on ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
                >
                  <Icon aria-hidden size={22} />
                  {text}
                </Link>
              );
            })}
            <Link
              to="/learn"
              aria-current={inLog ? "page" : undefined}
              className={`flex min-h-[72px] min-w-0 flex-col items-center justify-center gap-0.5 text-[min(0.875rem,4.4vw)] lg:min-h-12 lg:flex-row lg:gap-2 lg:rounded-full lg:px-4 lg:text-base ${inLog ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
            >
              <BookOpen aria-hidden size={22} />
              Learn
            </Link>
          </nav>
          <div className="ml-auto flex min-w-0 flex-wrap items-center justify-end gap-1">
            <Link
              to="/box"
              aria-current={path === "/box" ? "page" : undefined}
              className={`flex min-h-[48px] items-center gap-1.5 rounded-full px-[12px] text-sm ${path === "/box" ? "bg-ink font-semibold text-ground" : "hover:bg-paper"}`}
            >
              <Archive aria-hidden size={20} />
              <span className="max-[359px]:sr-only">Box</span>
            </Link>
            <Link
              to="/account"
              aria-label="account"
              aria-current={path === "/account" ? "page" : undefined}
              className={`grid size-[48px] place-items-center rounded-full ${path === "/account" ? "bg-ink text-ground" : "hover:bg-paper"}`}
            >
              <User aria-hidden size={20} />
            </Link>
            <button
              type="button"
              className="min-h-[48px] rounded-full px-[12px] text-sm hover:bg-paper max-[359px]:hidden"
              onClick={() => units.mutate(angler.units === "metric" ? "us" : "metric")}
            >
              {angler.units === "metric" ? "m · °C" : "ft · °F"}
            </button>
            <Pictures />
            <Shortcuts />
            <button
              type="button"
              className="grid size-[48px] place-items-center rounded-full hover:bg-paper"
              onClick={toggleTheme}
              aria-label={theme === "day" ? "dusk colours" : "day colours"}
            >
              {theme === "day" ? <Moon aria-hidden size={20} /> : <Sun aria-hidden size={20} />}
            </button>
          </div>
        </header>
        {(onLie || beside || path.startsWith("/beat/") || path === "/") && (
          <div className={`min-h-[var(--ribbon-room)] print:hidden ${bank ? "max-lg:hidden" : ""}`}>
            {beats.data && (
              <Ribbon
                beats={beats.data}
                current={lieId ?? null}
                step={onLie ? step : beside ? "rig" : "read"}
              />
            )}
          </div>
        )}
        <main
          data-at={shown}
          className={`mx-auto w-full max-w-7xl grow px-3 lg:px-6 lg:pb-6 ${bank ? "pb-2" : "pb-6"}`}
        >
          <Evicted />
          {ended && (
            <div
              role="alert"
              className="fixed inset-x-2 top-[calc(0.5rem+var(--above))] z-20 flex items-center gap-3 rounded-xl border-2 border-caution bg-paper p-2 lg:inset-x-auto lg:right-6 lg:max-w-xl"
            >
              <p className="grow font-semibold text-caution">
                Your session has ended. Logging goes on; it is sent when you sign in.
              </p>
              <Button onClick={() => setSigningIn(true)}>Sign in</Button>
            </div>
          )}
          {ended && signingIn && session.data && (
            <SignInAgain angler={angler} session={session.data} onClose={() => setSigningIn(false)} />
          )}
          {session.data?.angler && !session.data.angler.asked && <AskOnce angler={session.data.angler} />}
          {/* what stands under a screen is out of sight until it is whole: it would be moved by what arrives */}
          <div className={bank ? "" : "min-h-dvh print:min-h-0"}>
            <Screens at={shown} />
          </div>
          {!bank && (
            <div className="mt-6 flex flex-wrap gap-x-4 print:hidden">
              <WordsHere key={path} />
              <Pictures atFoot />
            </div>
          )}
        </main>
      </div>
    </UnitsContext>
  );
}

/** The start: the river today at the beat where one fishes, or else at the first. */
export function Start() {
  const beats = useBeats();
  const standing = useStanding();
  const first = standing === undefined ? undefined : (beatOf(beats.data ?? [], standing) ?? beats.data?.[0]);
  // a step taken meanwhile stands, also while its file is still being fetched
  const [path] = useLocation();
  if (path !== "/") return <Working what="Reading the river" here />;
  if (beats.data?.length === 0) return <Redirect to="/rivers" replace />;
  if (first) return <Redirect to={address.beat(first.id)} replace />;
  if (beats.isError && !beats.data) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  return <Working what="Reading the river" />;
}
