import { type ComponentType, type FunctionComponent, useEffect, useReducer } from "react";
import { Trouble } from "./parts";

interface Fetched<M> {
  found?: M;
  bring: () => Promise<void>;
}

type PropsOf<C> = C extends ComponentType<infer P> ? P : never;

/**
 * Parts of the app in a file of their own. `bring` has them at hand before they are drawn (`isHere`): what React has to wait for within a
 * drawing it shows no sooner than 0.3 s after it said so, however soon it is there. What is drawn sooner fetches its file itself,
 * and has no place until then; a file that does not come is said in its place.
 */
export function brought<M extends object>(fetched: () => Promise<M>) {
  const file: Fetched<M> = {
    bring: async () => {
      file.found ??= await fetched().catch(() => undefined);
    },
  };
  const part =
    <K extends keyof M>(name: K): FunctionComponent<PropsOf<M[K]>> =>
    (props) => <Part file={file} name={name} props={props as object} />;
  return { part, bring: file.bring, isHere: () => file.found !== undefined };
}

/** Whether the app that is served by now is another than this page runs: its files have other names then, and these are gone. */
async function isRenewed(): Promise<boolean> {
  const entry = document.querySelector("script[type=module][src]")?.getAttribute("src");
  const served = await fetch("/index.html", { cache: "no-store" }).then((page) => page.text());
  return entry !== null && entry !== undefined && !served.includes(entry);
}

interface PartProps<M> {
  file: Fetched<M>;
  name: keyof M;
  props: object;
}

function Part<M>({ file, name, props }: PartProps<M>) {
  const [tries, tried] = useReducer((n: number) => n + 1, 0);
  const Found = file.found?.[name] as ComponentType<object> | undefined;
  const here = Found !== undefined;
  useEffect(() => {
    if (!here) void file.bring().then(tried);
  }, [file, here]);
  const again = async () => {
    await file.bring();
    if (!file.found && (await isRenewed().catch(() => false))) location.reload();
    tried();
  };
  if (Found) return <Found {...props} />;
  if (tries === 0) return null;
  return (
    <div className="p-4">
      <Trouble
        error={
          new Error("This part of the app could not be fetched. What you logged is kept on this device.")
        }
        retry={again}
      />
    </div>
  );
}
