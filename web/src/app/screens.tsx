/** The screens: each in a file of its own, so that who signs in, or fishes, need not wait for the rest. */
import {
  type FunctionComponent,
  type ReactNode,
  useEffect,
  useLayoutEffect,
  useReducer,
  useState,
} from "react";
import { ErrorBoundary } from "react-error-boundary";
import { matchRoute, Route, Switch, useLocation, useRouter } from "wouter";
import { brought } from "../ui/brought";
import { Trouble } from "../ui/parts";

interface Screen {
  path: string;
  Shown: FunctionComponent;
  bring: () => Promise<void>;
  isHere: () => boolean;
}

const screens: Screen[] = [];
/** A file with the screens in it that stand under these addresses. */
function file<M extends object>(fetched: () => Promise<M>, at: Record<string, keyof M>) {
  const { part, ...rest } = brought(fetched);
  for (const [path, name] of Object.entries(at))
    screens.push({ path, Shown: part(name) as FunctionComponent, ...rest });
  return rest;
}

file(() => import("./shell"), { "/": "Start" });
export const today = file(() => import("../features/today/TodayScreen"), { "/beat/:beatId": "TodayScreen" });
file(() => import("../features/read/ReadScreen"), { "/lie/:lieId/read": "ReadScreen" });
file(() => import("../features/rig/RigScreen"), { "/lie/:lieId/rig": "RigScreen" });
file(() => import("../features/drift/DriftScreen"), { "/lie/:lieId/drift": "DriftScreen" });
file(() => import("../features/bank/BankScreen"), { "/lie/:lieId/log": "BankScreen" });
file(() => import("../features/build/BuildScreen"), { "/lie/:lieId/build": "BuildScreen" });
file(() => import("../features/compare/CompareScreen"), { "/lie/:lieId/compare": "CompareScreen" });
file(() => import("../features/box/BoxScreen"), { "/box": "BoxScreen" });
file(() => import("../features/setup/SetupScreen"), { "/rivers": "SetupScreen" });
file(() => import("../features/learn/LearnScreen"), { "/learn": "LearnScreen" });
file(() => import("../features/learn/RightScreen"), { "/right": "RightScreen" });
file(() => import("../features/practice/PracticeScreen"), { "/practice": "PracticeScreen" });
file(() => import("../features/practice/GameScreen"), { "/practice/:drill/:seed": "GameScreen" });
file(() => import("../features/trade/TradeScreen"), {
  "/trade": "TradeScreen",
  "/trade/:part": "TradeScreen",
});
file(() => import("../features/ledger/LedgerScreen"), {
  "/ledger": "LedgerList",
  "/ledger/:outingId": "LedgerPage",
});
file(() => import("../features/account/AccountScreen"), { "/account": "AccountScreen" });
file(() => import("../features/sharing/SharedScreen"), { "/shared/:shareId": "SharedScreen" });
file(() => import("../features/account/Letters"), { "/letters": "Letters" });
file(() => import("../features/account/Tickets"), { "/confirm": "ConfirmPage", "/reset": "ResetPage" });

/** A page that one is led to begins at its top; where one goes back to a page, the browser knows how far down it was. */
let led = false;
for (const event of ["pushState", "replaceState"])
  addEventListener(event, () => {
    led = true;
  });
addEventListener("popstate", () => {
  led = false;
});

/** The address whose screen is shown: the one before stays until the next one's file is here. Null: none is here yet. */
export function useShown(): string | null {
  const [going] = useLocation();
  const { parser } = useRouter();
  const [, came] = useReducer((n: number) => n + 1, 0);
  const [shown, show] = useState<string | null>(null);
  const next = screens.find(({ path }) => matchRoute(parser, path, going)[0]);
  const here = next?.isHere() ?? true;
  if (here && shown !== going) show(going);
  useEffect(() => {
    let left = false;
    // a file that does not come is said in the screen's place
    if (!here) void next?.bring().then(() => (next.isHere() ? came() : left || show(going)));
    return () => {
      left = true;
    };
  }, [here, next, going]);
  useLayoutEffect(() => {
    if (led && shown !== null) scrollTo(0, 0);
  }, [shown]);
  return shown;
}

/** The screen at an address. */
export function Screens({ at }: { at: string | null }): ReactNode {
  if (at === null) return null;
  return (
    <ErrorBoundary fallbackRender={() => <NotOpened />} resetKeys={[at]}>
      <Switch location={at}>
        {screens.map(({ path, Shown }) => (
          <Route key={path} path={path}>
            <Shown />
          </Route>
        ))}
        <Route>
          <Trouble error={new Error("There is nothing at this address.")} />
        </Route>
      </Switch>
    </ErrorBoundary>
  );
}

const NotOpened = () => (
  <div className="p-4">
    <Trouble
      error={new Error("This page could not be opened. What you logged is kept on this device.")}
      retry={() => location.reload()}
    />
  </div>
);
