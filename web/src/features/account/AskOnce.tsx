import { useState } from "react";
import { useAnglerChange } from "../../api/account";
import type { School } from "../../api/client";
import { useSchools } from "../../api/hooks";
import type { Angler } from "../../local/angler";
import { Button, Choice, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { TextField } from "../setup/fields";

const UNITS = [
  ["metric", "m, °C"],
  ["us", "ft, °F"],
] as const;

/** Units, home river and school, asked once; all of it can be changed later, and none is insisted on. */
export function AskOnce({
  angler,
  title = "Before you start",
  onClose,
}: {
  angler: Angler;
  title?: string;
  onClose?: () => void;
}) {
  const schools = useSchools();
  const store = useAnglerChange();
  const [units, setUnits] = useState(angler.units);
  const [river, setRiver] = useState(angler.home_river);
  const [school, setSchool] = useState<School>(angler.school);
  const after = { onSuccess: () => onClose?.() };
  const done = () => store.mutate({ units, home_river: river.trim(), school, asked: true }, after);
  return (
    <Sheet title={title} open onClose={() => store.mutate({ asked: true }, after)}>
      <Choice label="Units" value={units} options={UNITS} onChange={setUnits} />
      <TextField label="Home river" value={river} onChange={setRiver} />
      <p className="text-soft">Practitioners disagree, and all of them catch fish. Which side are you on?</p>
      {schools.data?.map((one) => (
        <Choice
          key={one.question}
          label={one.asks}
          value={school[one.question] as string}
          options={one.sides.map((side) => [side.value, side.name] as const)}
          onChange={(value) => setSchool({ ...school, [one.question]: value } as School)}
        />
      ))}
      {store.isError && <Trouble error={store.error} />}
      <Button look="main" className="w-full" onClick={done}>
        Done
      </Button>
    </Sheet>
  );
}
