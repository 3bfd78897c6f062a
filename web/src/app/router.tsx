import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  type RouteComponent,
} from "@tanstack/react-router";
import type { Question } from "../api/client";
import { Trouble } from "../ui/parts";
import { Door, Start } from "./door";

const root = createRootRoute({
  component: Door,
  notFoundComponent: () => <Trouble error={new Error("There is nothing at this address.")} />,
});
const under = <P extends string>(path: P, component: RouteComponent) =>
  createRoute({ getParentRoute: () => root, path, component });

/** Each step in a file of its own: who signs in, or fishes, need not wait for the rest. */
export const screens = {
  account: () => import("../features/account/AccountScreen"),
  letters: () => import("../features/account/Letters"),
  tickets: () => import("../features/account/Tickets"),
  bank: () => import("../features/bank/BankScreen"),
  box: () => import("../features/box/BoxScreen"),
  build: () => import("../features/build/BuildScreen"),
  compare: () => import("../features/compare/CompareScreen"),
  drift: () => import("../features/drift/DriftScreen"),
  learn: () => import("../features/learn/LearnScreen"),
  ledger: () => import("../features/ledger/LedgerScreen"),
  right: () => import("../features/learn/RightScreen"),
  game: () => import("../features/practice/GameScreen"),
  practice: () => import("../features/practice/PracticeScreen"),
  read: () => import("../features/read/ReadScreen"),
  rig: () => import("../features/rig/RigScreen"),
  setup: () => import("../features/setup/SetupScreen"),
  sharing: () => import("../features/sharing/SharedScreen"),
  trade: () => import("../features/trade/TradeScreen"),
  today: () => import("../features/today/TodayScreen"),
};

export const router = createRouter({
  routeTree: root.addChildren([
    under("/", Start),
    under("/beat/$beatId", lazyRouteComponent(screens.today, "TodayScreen")),
    under("/lie/$lieId/read", lazyRouteComponent(screens.read, "ReadScreen")),
    under("/lie/$lieId/rig", lazyRouteComponent(screens.rig, "RigScreen")),
    under("/lie/$lieId/drift", lazyRouteComponent(screens.drift, "DriftScreen")),
    under("/lie/$lieId/log", lazyRouteComponent(screens.bank, "BankScreen")),
    under("/lie/$lieId/build", lazyRouteComponent(screens.build, "BuildScreen")),
    under("/lie/$lieId/compare", lazyRouteComponent(screens.compare, "CompareScreen")),
    under("/box", lazyRouteComponent(screens.box, "BoxScreen")),
    under("/rivers", lazyRouteComponent(screens.setup, "SetupScreen")),
    createRoute({
      getParentRoute: () => root,
      path: "/learn",
      component: lazyRouteComponent(screens.learn, "LearnScreen"),
      validateSearch: ({ ask }): { ask?: Question } => (ask ? { ask: ask as Question } : {}),
    }),
    under("/right", lazyRouteComponent(screens.right, "RightScreen")),
    under("/practice", lazyRouteComponent(screens.practice, "PracticeScreen")),
    under("/practice/$drill/$seed", lazyRouteComponent(screens.game, "GameScreen")),
    under("/trade", lazyRouteComponent(screens.trade, "TradeScreen")),
    under("/trade/$part", lazyRouteComponent(screens.trade, "TradeScreen")),
    under("/ledger", lazyRouteComponent(screens.ledger, "LedgerList")),
    under("/ledger/$outingId", lazyRouteComponent(screens.ledger, "LedgerPage")),
    under("/account", lazyRouteComponent(screens.account, "AccountScreen")),
    under("/shared/$shareId", lazyRouteComponent(screens.sharing, "SharedScreen")),
    under("/letters", lazyRouteComponent(screens.letters, "Letters")),
    under("/confirm", lazyRouteComponent(screens.tickets, "ConfirmPage")),
    under("/reset", lazyRouteComponent(screens.tickets, "ResetPage")),
  ]),
  scrollRestoration: true,
  // a file that did not come, as a rule
  defaultErrorComponent: () => (
    <main className="p-4">
      <Trouble
        error={new Error("This page could not be opened. What you logged is kept on this device.")}
        retry={() => location.reload()}
      />
    </main>
  ),
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
