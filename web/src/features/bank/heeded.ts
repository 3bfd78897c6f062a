/** What was read of what must be read, by its code and by outing: on a device, so that it is asked once also after a cold start. */
import { useLiveQuery } from "dexie-react-hooks";
import { device } from "../../local/records";

const key = (outing: string) => `heeded ${outing}`;

/** What has been read in an outing; undefined while the device is being read. */
export const useHeeded = (outing: string | undefined): string[] | undefined =>
  useLiveQuery(
    async () => (outing ? ((await device.notes.get(key(outing)))?.value as string[] | undefined) : []) ?? [],
    [outing],
  );

export async function heed(outing: string | undefined, codes: string[]): Promise<void> {
  if (!outing) return;
  const before = ((await device.notes.get(key(outing)))?.value as string[] | undefined) ?? [];
  await device.notes.put({ key: key(outing), value: [...new Set([...before, ...codes])] });
}
