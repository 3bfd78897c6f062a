import type { BeatIn, LieIn } from "../../api/client";
import { usePlaces, useRetired } from "../../queries/places";
import { Button, Panel, Trouble } from "../../ui/parts";

interface Row {
  id: string;
  what: "beat" | "lie";
  name: string;
  on: string;
  fished: boolean;
  back: () => void;
}

/** Beats and lies that are not fished any more: in the ledger still, and in no other list. */
export function Retired() {
  const retired = useRetired();
  const { beat, lie, remove } = usePlaces();
  const { beats = [], lies = [] } = retired.data ?? {};
  const rows: Row[] = [
    ...beats.map(({ id, river, fished, ...body }): Row => {
      const back: BeatIn = { ...body, retired: false };
      const { name } = body;
      return { id, what: "beat", name, on: river, fished, back: () => beat.mutate({ id, body: back }) };
    }),
    ...lies.map(({ id, beat: on, fished, ...body }): Row => {
      const back: LieIn = { ...body, retired: false };
      return { id, what: "lie", name: body.name, on, fished, back: () => lie.mutate({ id, body: back }) };
    }),
  ];
  if (rows.length === 0) return null;
  const error = remove.error ?? beat.error ?? lie.error;
  return (
    <Panel title="Not fished any more">
      <p className="text-soft">What was fished there stays in the ledger.</p>
      <ul className="divide-y divide-line">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-2 py-2">
            <span className="min-w-0 grow basis-40">
              {row.name} <span className="text-soft">{row.on}</span>
            </span>
            <Button onClick={row.back}>Bring back</Button>
            {!row.fished && (
              <Button onClick={() => remove.mutate({ what: row.what, id: row.id })}>Delete for good</Button>
            )}
          </li>
        ))}
      </ul>
      {error !== null && <Trouble error={error} />}
    </Panel>
  );
}
