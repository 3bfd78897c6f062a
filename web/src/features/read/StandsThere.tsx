/** What stands in or over a lie, and how fast the water runs between the angler and the lane. */
import type { ReadingIn } from "../../api/client";
import { Button, NumberField, Panel, Several } from "../../ui/parts";

const COVER = [
  ["rocks", "rocks in it"],
  ["roots", "roots, wood"],
  ["branches", "branches over"],
] as const;

type Said = Pick<ReadingIn, "cover" | "under_line_m_s">;

export function StandsThere({
  said,
  onChange,
}: {
  said: Said;
  onChange: (change: Partial<ReadingIn>) => void;
}) {
  const between = said.under_line_m_s ?? null;
  return (
    <Panel title="What stands there">
      <div className="space-y-3">
        <Several
          label="In the lie, or over it"
          values={said.cover ?? []}
          options={COVER}
          onChange={(cover) => onChange({ cover })}
        />
        <NumberField
          label="A bubble between you and the lane"
          unit="m/s"
          value={between}
          onCommit={(under_line_m_s) => onChange({ under_line_m_s })}
        />
        {between === null ? (
          <p className="text-sm text-soft">Not timed: taken as is usual for such a lie.</p>
        ) : (
          <Button className="w-full" onClick={() => onChange({ under_line_m_s: null })}>
            As is usual for such a lie
          </Button>
        )}
      </div>
    </Panel>
  );
}
