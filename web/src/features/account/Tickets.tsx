import { type FormEvent, useEffect, useState } from "react";
import { Link } from "wouter";
import { useConfirm, useReset } from "../../queries/account";
import { Button, Trouble, Working } from "../../ui/parts";
import { faultOf, Rest, TextField } from "../setup/fields";

/** The ticket is behind the #: it is not sent to anybody's log. */
const ticketHere = (): string => location.hash.slice(1);

const Page = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <main className="mx-auto max-w-xl space-y-3 p-6">
    <h1 className="text-2xl font-bold">{title}</h1>
    {children}
  </main>
);

const ToStart = () => (
  <Link to="/" className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4">
    On to Deriva
  </Link>
);

export function ConfirmPage() {
  const { mutate, ...confirm } = useConfirm();
  useEffect(() => mutate(ticketHere()), [mutate]);
  if (confirm.isError)
    return (
      <Page title="Confirm your address">
        <Trouble error={confirm.error} />
        <ToStart />
      </Page>
    );
  if (!confirm.data) return <Working what="Confirming" />;
  return (
    <Page title="Your address is confirmed">
      <p>Sign in with it.</p>
      <ToStart />
    </Page>
  );
}

export function ResetPage() {
  const [password, setPassword] = useState("");
  const reset = useReset();
  const go = (event: FormEvent) => {
    event.preventDefault();
    reset.mutate({ ticket: ticketHere(), password });
  };
  if (reset.data)
    return (
      <Page title="The password is changed">
        <p>Every session that was open has ended. Sign in with the new one.</p>
        <ToStart />
      </Page>
    );
  return (
    <Page title="A new password">
      <form className="space-y-3" onSubmit={go}>
        <TextField
          label="New password, 12 letters or more"
          type="password"
          complete="new-password"
          value={password}
          onChange={setPassword}
          error={faultOf(reset.error, "password")}
        />
        <Rest error={reset.error} fields={["password"]} />
        <Button look="main" type="submit" className="w-full" disabled={reset.isPending}>
          Set it
        </Button>
      </form>
    </Page>
  );
}
