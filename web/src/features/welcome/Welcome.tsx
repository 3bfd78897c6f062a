import { useSignIn } from "../../api/hooks";
import { Button, Trouble } from "../../ui/parts";

export function Welcome({ demo }: { demo: boolean }) {
  const signIn = useSignIn();
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
      {demo ? (
        <Button look="main" className="text-lg" onClick={() => signIn.mutate()} disabled={signIn.isPending}>
          Fish the Marrowen (demo)
        </Button>
      ) : (
        <p className="font-semibold">Accounts are not here yet. Start the demo to look around.</p>
      )}
      {signIn.isError && <Trouble error={signIn.error} />}
      <p className="text-sm text-soft">Local rules and the fishery's word come first.</p>
    </main>
  );
}
