import { type ComponentType, useReducer } from "react";
import { Trouble } from "./parts";

interface Held<P> {
  part?: ComponentType<P>;
  bring: () => Promise<void>;
}

/**
 * A part of the app in a file of its own, and what has it at hand before it is drawn: what React has to wait for within a drawing
 * it shows no sooner than 0.3 s after it said so, however soon it is there. A file that does not come is said in its place.
 */
export function brought<K extends string, P extends object>(
  file: () => Promise<Record<K, ComponentType<P>>>,
  name: K,
) {
  const held: Held<P> = {
    bring: async () => {
      held.part ??= await file().then(
        (found) => found[name],
        () => undefined,
      );
    },
  };
  return [(props: P) => <Here held={held} props={props} />, held.bring] as const;
}

function Here<P extends object>({ held, props }: { held: Held<P>; props: P }) {
  const [, again] = useReducer((n: number) => n + 1, 0);
  const Part = held.part;
  if (Part) return <Part {...props} />;
  return (
    <div className="p-4">
      <Trouble
        error={
          new Error("This part of the app could not be fetched. What you logged is kept on this device.")
        }
        retry={() => held.bring().then(again)}
      />
    </div>
  );
}
