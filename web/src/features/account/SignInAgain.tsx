import type { Session } from "../../api/client";
import type { Angler } from "../../local/angler";
import { useArriving } from "../../queries/account";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { SignIn } from "./SignIn";

/** The session ended while somebody fished: the way back in, without leaving the page. */
export function SignInAgain({
  angler,
  session,
  onClose,
}: {
  angler: Angler;
  session: Session;
  onClose: () => void;
}) {
  const arriving = useArriving();
  return (
    <Sheet title={`Sign in again, ${angler.name}`} open onClose={onClose}>
      {session.demo_start && angler.demo ? (
        <Button look="main" className="w-full" onClick={() => arriving.demo.mutate()}>
          Fish the Marrowen (demo)
        </Button>
      ) : (
        <SignIn first={false} signUp={false} letters={session.letters} />
      )}
    </Sheet>
  );
}
