import { useState } from "react";
import { newId } from "../../local/outbox";
import { useSharing } from "../../queries/account";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { faultOf, Rest, TextField } from "../setup/fields";

const BLURS_M = [0, 2000, 5000, 20000];

interface Props {
  name: string;
  thing: { beat_id: string } | { outing_id: string };
  onClose: () => void;
}

/** Let one other angler read a beat or an outing. Where it is stays a secret unless it is said. */
export function ShareSheet({ name, thing, onClose }: Props) {
  const { put } = useSharing();
  const { show } = useUnits();
  const blurs = BLURS_M.map((by) => [String(by), by === 0 ? "exact" : `${show(by, "km")} off`] as const);
  const [id] = useState(newId);
  const [reader, setReader] = useState("");
  const [blur, setBlur] = useState("5000");
  const share = () =>
    put.mutate({ id, body: { ...thing, reader, blur_m: Number(blur) } }, { onSuccess: onClose });
  return (
    <Sheet title={`Share ${name}`} open onClose={onClose}>
      <TextField
        label="With whom: the mail address of an account"
        type="email"
        complete="email"
        value={reader}
        onChange={setReader}
        error={faultOf(put.error, "reader")}
      />
      <Choice label="The place" value={blur} options={blurs} onChange={setBlur} />
      <p className="text-sm text-soft">
        To be read and no more, until you take it back under Account. Whether the address has an account is
        not said. Names are shown as they are: do they give the place away?
      </p>
      <Rest error={put.error} fields={["reader"]} />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="main" onClick={share} disabled={put.isPending}>
          Share it
        </Button>
      </div>
    </Sheet>
  );
}
