import { Link } from "wouter";
import type { Session } from "../../api/client";
import { useArriving } from "../../queries/account";
import { Button, Trouble } from "../../ui/parts";
import { SignIn } from "../account/SignIn";

export function Welcome({ session }: { session: Session }) {
  const { demo } = useArriving();
  return (
    <main className="mx-auto flex min-h-full max-w-xl flex-col justify-end gap-6 p-6 pb-10 lg:justify-center">
      <svg
        viewBox="0 0 320 150"
        role="img"
        aria-label="A float on the water, its line leaning upstream to a fly near the bed"
        className="w-full"
      >
        <rect y="34" width="320" height="116" fill="var(--water-1)" />
        <rect y="100" width="320" height="34" fill="var(--zone)" opacity="0.5" />
        <rect y="134" width="320" height="16" fill="var(--bed)" />
        <line x1="0" x2="320" y1="34" y2="34" stroke="var(--water-3)" strokeWidth="2" />
        <path d="M210 34C206 66 190 92 168 122" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <circle cx="210" cy="33" r="8" fill="var(--signal)" stroke="var(--ink)" />
        <circle cx="168" cy="122" r="5" fill="var(--ink)" />
      </svg>
      <div>
        <h1 className="text-4xl font-bold tracking-tight">Know where your flies are.</h1>
        <p className="mt-2 text-lg text-soft">
          Read the lie, choose and set the rig, see its drift under water, and log it with one thumb.
        </p>
      </div>
      {session.demo_start && (
        <Button look="main" className="text-lg" onClick={() => demo.mutate()} disabled={demo.isPending}>
          Fish the Marrowen (demo)
        </Button>
      )}
      {demo.isError && <Trouble error={demo.error} />}
      <SignIn first={session.first_run} signUp={session.sign_up} letters={session.letters} />
      {session.demo_start && (
        <p className="text-sm text-soft">
          Letters are not sent from the demo:{" "}
          <Link to="/letters" className="underline">
            read them here
          </Link>
          .
        </p>
      )}
      <p className="text-sm text-soft">Local rules and the fishery's word come first.</p>
    </main>
  );
}
