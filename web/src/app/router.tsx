import { createRootRoute, createRoute, createRouter, Navigate } from "@tanstack/react-router";
import { AccountScreen } from "../features/account/AccountScreen";
import { Letters } from "../features/account/Letters";
import { ConfirmPage, ResetPage } from "../features/account/Tickets";
import { BankScreen } from "../features/bank/BankScreen";
import { BoxScreen } from "../features/box/BoxScreen";
import { BuildScreen } from "../features/build/BuildScreen";
import { CompareScreen } from "../features/compare/CompareScreen";
import { DriftScreen } from "../features/drift/DriftScreen";
import { LedgerList, LedgerPage } from "../features/ledger/LedgerScreen";
import { ReadScreen } from "../features/read/ReadScreen";
import { RigScreen } from "../features/rig/RigScreen";
import { SetupScreen } from "../features/setup/SetupScreen";
import { SharedScreen } from "../features/sharing/SharedScreen";
import { TodayScreen } from "../features/today/TodayScreen";
import { useBeats } from "../queries/places";
import { Trouble, Working } from "../ui/parts";
import { Shell } from "./shell";

/** The start: the river today at the first beat. */
function Start() {
  const beats = useBeats();
  const first = beats.data?.[0];
  if (beats.data?.length === 0) return <Navigate to="/rivers" replace />;
  if (first) return <Navigate to="/beat/$beatId" params={{ beatId: first.id }} replace />;
  if (beats.isError && !beats.data) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  return <Working what="Reading the river" />;
}

const root = createRootRoute({
  component: Shell,
  notFoundComponent: () => <Trouble error={new Error("There is nothing at this address.")} />,
});
const under = <P extends string>(path: P, component: () => React.ReactNode) =>
  createRoute({ getParentRoute: () => root, path, component });

export const router = createRouter({
  routeTree: root.addChildren([
    under("/", Start),
    under("/beat/$beatId", TodayScreen),
    under("/lie/$lieId/read", ReadScreen),
    under("/lie/$lieId/rig", RigScreen),
    under("/lie/$lieId/drift", DriftScreen),
    under("/lie/$lieId/log", BankScreen),
    under("/lie/$lieId/build", BuildScreen),
    under("/lie/$lieId/compare", CompareScreen),
    under("/box", BoxScreen),
    under("/rivers", SetupScreen),
    under("/ledger", LedgerList),
    under("/ledger/$outingId", LedgerPage),
    under("/account", AccountScreen),
    under("/shared/$shareId", SharedScreen),
    under("/letters", Letters),
    under("/confirm", ConfirmPage),
    under("/reset", ResetPage),
  ]),
  scrollRestoration: true,
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
