import { type FormEvent, useState } from "react";
import { useArriving, useForgot } from "../../queries/account";
import { Button } from "../../ui/parts";
import { faultOf, Rest, TextField } from "../setup/fields";

type Mode = "in" | "up" | "forgot";

/** Typed at home: address and password, a new account, or a way back to one. */
export function SignIn({
  first,
  signUp,
  letters,
}: {
  first: boolean;
  signUp: boolean;
  /** Whether letters are sent from here; where none are, whoever runs this opens the door. */
  letters: boolean;
}) {
  const [mode, setMode] = useState<Mode>(first ? "up" : "in");
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const arriving = useArriving();
  const forgot = useForgot();
  const asked = mode === "in" ? arriving.signIn : mode === "up" ? arriving.signUp : forgot;
  const { error } = asked;
  const go = (event: FormEvent) => {
    event.preventDefault();
    if (mode === "in") arriving.signIn.mutate({ email, password });
    else if (mode === "up") arriving.signUp.mutate({ name, email, password });
    else forgot.mutate(email);
  };
  const letter = (mode === "up" && arriving.signUp.data && !arriving.signUp.data.angler) || forgot.data;
  const turn = (to: Mode) => {
    asked.reset();
    setMode(to);
  };
  return (
    <form className="space-y-3" onSubmit={go} noValidate>
      <h2 className="text-xl font-bold">
        {mode === "in"
          ? "Sign in"
          : mode === "forgot"
            ? "A new password"
            : first
              ? "Make the first account"
              : "Make an account"}
      </h2>
      {mode === "up" && (
        <TextField
          label="Your name"
          value={name}
          onChange={setName}
          error={faultOf(error, "name")}
          complete="name"
        />
      )}
      <TextField
        label="Mail address"
        type="email"
        value={email}
        onChange={setEmail}
        error={faultOf(error, "email")}
        complete="username"
      />
      {mode !== "forgot" && (
        <TextField
          label={mode === "up" ? "Password, 12 letters or more" : "Password"}
          type="password"
          value={password}
          onChange={setPassword}
          error={faultOf(error, "password")}
          complete={mode === "up" ? "new-password" : "current-password"}
        />
      )}
      {letter && (
        <p role="status" className="rounded-lg bg-paper p-3 font-semibold">
          {letters
            ? `A letter is on its way to ${email}, if it can be. Follow its link.`
            : "Your account is made and waits to be confirmed by whoever runs this. Ask them: no letters are sent from here."}
        </p>
      )}
      <Rest error={error} fields={["name", "email", "password"]} />
      <Button look="main" type="submit" className="w-full text-lg" disabled={asked.isPending}>
        {mode === "in" ? "Sign in" : mode === "up" ? "Make it" : "Send the letter"}
      </Button>
      {!first && !letters && mode === "in" && (
        <p className="text-sm text-soft">
          Forgot your password? No letters are sent from here: whoever runs this can make you a link.
        </p>
      )}
      {!first && (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
          {mode !== "in" && <Button onClick={() => turn("in")}>Sign in instead</Button>}
          {mode !== "forgot" && letters && (
            <Button onClick={() => turn("forgot")}>Forgot your password?</Button>
          )}
          {mode === "in" && signUp && <Button onClick={() => turn("up")}>Make an account</Button>}
        </div>
      )}
    </form>
  );
}
