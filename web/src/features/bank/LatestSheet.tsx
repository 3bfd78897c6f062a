import { useState } from "react";
import type { Beat } from "../../api/client";
import { useSetting } from "../../app/rigs";
import { useLatest } from "../../local/logbook";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { LineSheet, OUTCOMES } from "./LineSheet";

interface Props {
  angler: string;
  beat: Beat;
  outing: string;
  onClose: () => void;
}

/** The last drifts of the outing, to be corrected, taken back and put back; with or without signal. */
export function LatestSheet({ angler, beat, outing, onClose }: Props) {
  const { clock } = useUnits();
  const said = useSetting();
  const lines = useLatest(angler, outing);
  const [open, setOpen] = useState<string | null>(null);
  const line = lines.find((one) => one.drift.id === open);
  const lieName = (id: string) => beat.lies.find((one) => one.id === id)?.name ?? "another beat";
  if (line)
    return (
      <LineSheet
        angler={angler}
        lies={beat.lies}
        release={beat.rules.release}
        line={line}
        lines={lines}
        onClose={() => setOpen(null)}
      />
    );
  return (
    <Sheet title="The last drifts" open onClose={onClose}>
      {lines.length === 0 && <p className="text-soft">None yet in this outing.</p>}
      <ul className="divide-y divide-line">
        {lines.map(({ drift, setting, stop, fish }) => (
          <li key={drift.id}>
            <button
              type="button"
              className="grid min-h-14 w-full grid-cols-[4rem_1fr_auto] items-center gap-2 py-1 text-left"
              onClick={() => setOpen(drift.id)}
            >
              <span className="text-soft">{clock(drift.body.at)}</span>
              <span className={drift.body.undone ? "text-soft line-through" : ""}>
                <b>{OUTCOMES.find(([key]) => key === drift.body.outcome)?.[1]}</b>
                {drift.body.weed && " · weed"}
                {fish.some((one) => !one.body.undone) && ` · ${fish[0]?.body.species}`}
                <span className="block text-sm text-soft">
                  {lieName(stop.body.lie_id)} · {said(setting.body)}
                </span>
              </span>
              <span className="text-sm underline">change</span>
            </button>
          </li>
        ))}
      </ul>
      <Button className="w-full" onClick={onClose}>
        Back to the keys
      </Button>
    </Sheet>
  );
}
