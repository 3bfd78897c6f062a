/** Whether anything was ever kept here: who is new waits for nothing that is kept with. */

/** What the store of this device is called. */
export const STORE = "deriva";

/** Whether there is a store on this device; where the browser does not tell, there may be one. */
export async function everKept(): Promise<boolean> {
  try {
    return (await indexedDB.databases()).some((one) => one.name === STORE);
  } catch {
    return true;
  }
}
