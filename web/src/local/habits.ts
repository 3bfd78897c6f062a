/** How one fishes on until one says otherwise: kept on this device. */
import { useLiveQuery } from "dexie-react-hooks";
import type { Bodies } from "./records";
import { device } from "./records";

export type Direction = NonNullable<Bodies["drifts"]["direction"]>;

const DIRECTION = "direction";
const DRIED = "dried";

/** Whether one casts up or feeds down; undefined while the device is being read. */
export const useDirection = (): Direction | undefined => useLiveQuery(readDirection, []);

export const readDirection = async (): Promise<Direction> =>
  ((await device.notes.get(DIRECTION))?.value as Direction | undefined) ?? "up";

export const fishOn = (value: Direction) => device.notes.put({ key: DIRECTION, value });

/** The name that this device goes by in the log; undefined while it is being read, or before its first writing. */
export const useOwnDevice = (): string | undefined =>
  useLiveQuery(async () => (await device.notes.get("device"))?.value as string | undefined, []);

/** The dry was dried just now: the next drift is the first that it is dry for. */
export const dry = () => device.notes.put({ key: DRIED, value: true });

export const useDried = (): boolean => useLiveQuery(isDried, []) ?? false;

export const isDried = async (): Promise<boolean> => (await device.notes.get(DRIED)) !== undefined;

export const wetted = () => device.notes.delete(DRIED);

const ON_TIME = "buzz on time";

/** Whether the phone buzzes through a drift; undefined while the device is being read. */
export const useOnTime = (): boolean | undefined =>
  useLiveQuery(async () => (await device.notes.get(ON_TIME)) !== undefined, []);

export const buzzOnTime = (on: boolean) =>
  on ? device.notes.put({ key: ON_TIME, value: true }) : device.notes.delete(ON_TIME);

const GLOVES = "gloves";

/** Whether the keys are larger and alone, for gloves; undefined while the device is being read. */
export const useGloves = (): boolean | undefined =>
  useLiveQuery(async () => (await device.notes.get(GLOVES)) !== undefined, []);

export const wearGloves = (on: boolean) =>
  on ? device.notes.put({ key: GLOVES, value: true }) : device.notes.delete(GLOVES);

const FIRST_HOUR = "first hour";

/** Whether the bank is that of a first hour; undefined while the device is being read. */
export const useFirstHour = (): boolean | undefined =>
  useLiveQuery(async () => (await device.notes.get(FIRST_HOUR)) !== undefined, []);

export const fishFirstHour = (on: boolean) =>
  on ? device.notes.put({ key: FIRST_HOUR, value: true }) : device.notes.delete(FIRST_HOUR);
