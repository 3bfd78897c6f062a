import { createContext, useContext } from "react";
import { clock, type System, sentence, show, type Unit } from "./units";

export const UnitsContext = createContext<System>("metric");

/** Formatting in the angler's units. */
export const useUnits = () => {
  const system = useContext(UnitsContext);
  return {
    system,
    show: (value: number, unit: Unit, places?: number) => show(value, unit, system, places),
    /** What a fly is weighted with. */
    bead: (mm: number | null) => (mm === null ? "no bead" : show(mm, "bead", system)),
    say: (text: string) => sentence(text, system),
    clock: (at: string | number) => clock(at, system),
  };
};
