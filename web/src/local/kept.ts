/** Whether anything was ever kept here, and will be: who is new waits for nothing that is kept with. */

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

/** Ask the browser to keep what is here until the angler throws it away; whether it will. */
export async function askToKeep(): Promise<boolean> {
  if (!navigator.storage?.persist) return false;
  return (await navigator.storage.persisted()) || navigator.storage.persist();
}

export interface Room {
  lasting: boolean;
  /** Bytes left for this app; null where the browser does not say. */
  left: number | null;
}

export async function room(): Promise<Room> {
  const lasting = (await navigator.storage?.persisted?.()) ?? false;
  const { quota, usage } = (await navigator.storage?.estimate?.()) ?? {};
  return { lasting, left: quota === undefined || usage === undefined ? null : quota - usage };
}
