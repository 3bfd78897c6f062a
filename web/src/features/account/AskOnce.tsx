import { useState } from "react";
import type { School } from "../../api/client";
import type { Angler } from "../../local/angler";
import { fishFirstHour, useFirstHour } from "../../local/habits";
import { useAnglerChange } from "../../queries/account";
import { useSchools } from "../../queries/angler";
import { Choice } from "../../ui/choosing";
import { Button, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { TextField } from "../setup/fields";

const UNITS = [
  ["metric", "m, °C"],
  ["us", "ft, °F"],
] as const;

const BEFORE = [
  ["yes", "yes"],
  ["never", "never: keep it simple"],
] as const;

/** Units, home river and school, asked once; all of it can be changed later, and none is insisted on. */
export function AskOnce({
  angler,
  title = "Before you start",
  open = false,
  onClose,
}: {
  angler: Angler;
  title?: string;
  /** Whether the schools are in sight at once; before the first river is seen they wait. */
  open?: boolean;
  onClose?: () => void;
}) {
  const schools = useSchools();
  const store = useAnglerChange();
  const simple = useFirstHour();
  const [units, setUnits] = useState(angler.units);
  const [river, setRiver] = useState(angler.home_river);
  const [school, setSchool] = useState<School>(angler.school);
  const after = { onSuccess: () => onClose?.() };
  const done = () => store.mutate({ units, home_river: river.trim(), school, asked: true }, after);
  return (
    <Sheet title={title} open onClose={done}>
      <Choice label="Units" value={units} options={UNITS} onChange={setUnits} />
      <TextField label="Home river" value={river} onChange={setRiver} />
      <Choice
        label="Fished nymphs before?"
        value={simple === undefined ? null : simple ? "never" : "yes"}
        options={BEFORE}
        onChange={(one) => void fishFirstHour(one === "never")}
      />
      <details open={open} className="rounded-xl border border-line p-3">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">
          Where practitioners disagree (can wait)
        </summary>
        <div className="space-y-4">
          <p className="text-soft">All of them catch fish. Which side are you on?</p>
          {schools.data?.map((one) => (
            <Choice
              key={one.question}
              label={one.asks}
              value={school[one.question] as string}
              options={one.sides.map((side) => [side.value, side.name] as const)}
              onChange={(value) => setSchool({ ...school, [one.question]: value } as School)}
            />
          ))}
        </div>
      </details>
      {store.isError && <Trouble error={store.error} />}
      <Button look="main" className="w-full" onClick={done}>
        Done
      </Button>
    </Sheet>
  );
}
