import { useLetters } from "../../queries/account";
import { Panel, Trouble, Working } from "../../ui/parts";

const LINK = /(https?:\/\/\S+)/;

/** The simulated outbox of the demo start: what would have been sent. */
export function Letters() {
  const letters = useLetters();
  if (letters.isError) return <Trouble error={letters.error} />;
  if (!letters.data) return <Working what="Opening the letters" />;
  return (
    <main className="mx-auto max-w-2xl space-y-3 p-4">
      <h1 className="text-2xl font-bold">Letters</h1>
      <p className="text-soft">Nothing is sent from here: these are the letters that would have been.</p>
      {letters.data.map((one) => (
        <Panel key={one.id} title={one.subject}>
          <p className="text-sm text-soft">
            to {one.to}, {new Date(one.at).toLocaleTimeString("en-GB")}
          </p>
          <p className="mt-1 break-words">
            {one.text.split(LINK).map((part) =>
              LINK.test(part) ? (
                <a key={part} className="underline" href={here(part)}>
                  {part.slice(0, 60)}…
                </a>
              ) : (
                part
              ),
            )}
          </p>
        </Panel>
      ))}
      {letters.data.length === 0 && <p>None yet.</p>}
    </main>
  );
}

/** The link on this site, wherever it was started. */
const here = (link: string): string => {
  const url = new URL(link);
  return url.pathname + url.hash;
};
