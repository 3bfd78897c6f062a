import { useLiveQuery } from "dexie-react-hooks";
import { device } from "../../local/records";
import { useOnline } from "../../ui/online";
import { Working } from "../../ui/parts";

/** Whether a lie was taken along; undefined while that is being looked up. */
export const useTakenAlong = (lie: string): boolean | undefined =>
  useLiveQuery(async () => (await device.marches.where("lie").equals(lie).count()) > 0, [lie]);

/** The rigs of a lie are being worked out; by this device where there is no signal, slowly where they were not taken along. */
export function Hanging({ lie }: { lie: string }) {
  const online = useOnline();
  const taken = useTakenAlong(lie);
  return (
    <>
      <Working what="Hanging every rig in this water" here />
      {!online && taken === false && (
        <p className="px-4 text-soft">This lie was not taken along: it takes this device a while.</p>
      )}
    </>
  );
}
