import { brought } from "./brought";
import type { SheetProps } from "./dialogue";

/** Nothing is in a sheet that a first screen waits for. */
const dialogue = brought(() => import("./dialogue"));
const Dialogue = dialogue.part("Dialogue");

/** Have what sheets are made with at hand before the first is opened. */
export const bringSheets = dialogue.bring;

/** A sheet that rises from the thumb's end of the screen. */
export const Sheet = ({ open, ...sheet }: SheetProps & { open: boolean }) => open && <Dialogue {...sheet} />;
