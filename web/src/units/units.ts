/** The only place where numbers change unit. The service speaks SI (with mm, °C and g); people see what they chose. */

export type System = "metric" | "us";
export type Unit =
  | "m"
  | "m/s"
  | "m/s air"
  | "reach"
  | "°C"
  | "°C apart"
  | "mm"
  | "s"
  | "g"
  | "kg"
  | "weight"
  | "m²/s"
  | "m³/s"
  | "bead"
  | "fish"
  | "km";

interface Scale {
  label: string;
  factor: number;
  offset: number;
  places: number;
  step: number;
}

const METRIC: Record<Unit, Scale> = {
  m: { label: "m", factor: 1, offset: 0, places: 2, step: 0.05 },
  "m/s": { label: "m/s", factor: 1, offset: 0, places: 2, step: 0.05 },
  "m/s air": { label: "m/s", factor: 1, offset: 0, places: 1, step: 0.5 },
  reach: { label: "m", factor: 1, offset: 0, places: 1, step: 0.5 },
  "°C": { label: "°C", factor: 1, offset: 0, places: 1, step: 0.5 },
  "°C apart": { label: "°C", factor: 1, offset: 0, places: 1, step: 0.1 },
  mm: { label: "mm", factor: 1, offset: 0, places: 0, step: 1 },
  bead: { label: "mm", factor: 1, offset: 0, places: 1, step: 0.5 },
  fish: { label: "cm", factor: 0.1, offset: 0, places: 0, step: 1 },
  s: { label: "s", factor: 1, offset: 0, places: 1, step: 0.1 },
  g: { label: "g", factor: 1, offset: 0, places: 2, step: 0.1 },
  km: { label: "km", factor: 0.001, offset: 0, places: 0, step: 1 },
  kg: { label: "kg", factor: 1, offset: 0, places: 1, step: 0.1 },
  weight: { label: "kg", factor: 0.001, offset: 0, places: 2, step: 0.1 }, // of a fish, which comes in g
  "m²/s": { label: "m²/s", factor: 1, offset: 0, places: 2, step: 0.1 },
  "m³/s": { label: "m³/s", factor: 1, offset: 0, places: 2, step: 0.1 },
};

const FOOT = 0.3048;
const NBSP = "\u00a0"; // a number and its unit stay on one line
const US: Record<Unit, Scale> = {
  ...METRIC, // beads are sold in millimetres everywhere, and shot is too small for ounces
  m: { label: "ft", factor: 1 / FOOT, offset: 0, places: 1, step: 0.1 },
  "m/s": { label: "ft/s", factor: 1 / FOOT, offset: 0, places: 1, step: 0.1 },
  "m/s air": { label: "mph", factor: 3600 / (5280 * FOOT), offset: 0, places: 0, step: 1 },
  reach: { label: "ft", factor: 1 / FOOT, offset: 0, places: 0, step: 1 },
  "°C": { label: "°F", factor: 1.8, offset: 32, places: 0, step: 1 },
  "°C apart": { label: "°F", factor: 1.8, offset: 0, places: 1, step: 0.1 },
  km: { label: "mi", factor: 1 / (5280 * FOOT), offset: 0, places: 0, step: 1 },
  kg: { label: "lb", factor: 1 / 0.45359237, offset: 0, places: 1, step: 0.1 },
  weight: { label: "lb", factor: 1 / 453.59237, offset: 0, places: 1, step: 0.1 },
  fish: { label: "in", factor: 1 / 25.4, offset: 0, places: 1, step: 0.5 },
  "m³/s": { label: "ft³/s", factor: 1 / FOOT ** 3, offset: 0, places: 0, step: 1 },
  "m²/s": { label: "ft²/s", factor: 1 / FOOT ** 2, offset: 0, places: 1, step: 0.1 },
};

export const scaleOf = (unit: Unit, system: System): Scale => (system === "us" ? US : METRIC)[unit];

/** A number of the service, in the unit that people see. */
export const toShown = (value: number, unit: Unit, system: System): number => {
  const { factor, offset } = scaleOf(unit, system);
  return value * factor + offset;
};

/** A number that a person gave, in the unit of the service. */
export const fromShown = (shown: number, unit: Unit, system: System): number => {
  const { factor, offset } = scaleOf(unit, system);
  return (shown - offset) / factor;
};

/** A number as it is read: rounded, with a minus and not a hyphen, and without one where nothing is left of it. */
export const figure = (value: number, places: number): string =>
  value
    .toFixed(places)
    .replace(/^-(?=.*[1-9])/, "−")
    .replace(/^-/, "");

/** A number with its unit, rounded as that unit is read. */
export const show = (value: number, unit: Unit, system: System, places?: number): string => {
  const scale = scaleOf(unit, system);
  return `${figure(toShown(value, unit, system), places ?? scale.places)}${NBSP}${scale.label}`;
};

const isUnit = (text: string): text is Unit => text in METRIC;

/** A sentence of the core with its marked quantities (⟦1.60 m⟧) put into the units that people see. */
export const sentence = (text: string, system: System): string =>
  text.replaceAll(" · ", `${NBSP}· `).replace(/⟦(-?[\d.]+) ([^⟧]+)⟧/g, (_, number: string, unit: string) => {
    if (!isUnit(unit)) return `${number}${NBSP}${unit}`;
    const given = number.split(".")[1]?.length ?? 0;
    const converted = scaleOf(unit, system).label !== METRIC[unit].label;
    return show(Number(number), unit, system, converted ? undefined : given);
  });

/** What a person typed, as a number of the service; null where it is not a number. A decimal comma is one too. */
export const parse = (typed: string, unit: Unit, system: System): number | null => {
  const text = typed.trim().replace(",", ".");
  if (!/^-?\d*\.?\d+$/.test(text)) return null;
  return fromShown(Number(text), unit, system);
};

export const percent = (share: number): string => `${Math.round(100 * share)} %`;

// Times and days are written here: the first time that the browser is asked to put one into words takes it longer than all else
// on a page, and it would take the words of its own language.
const WEEKDAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
export const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

export const weekday = (at: string | number): string => `${WEEKDAYS[new Date(at).getDay()]}`;

/** A day of the year where the phone is: 9 Nov. */
export const day = (at: string | number): string =>
  `${new Date(at).getDate()} ${MONTHS[new Date(at).getMonth()]}`;

/** A time of the day where the phone is: 24 hours round, or twice 12 for those who read feet. */
export function clock(at: string | number, system: System): string {
  const time = new Date(at);
  const [hours, minutes] = [time.getHours(), String(time.getMinutes()).padStart(2, "0")];
  if (system === "metric") return `${String(hours).padStart(2, "0")}:${minutes}`;
  return `${hours % 12 || 12}:${minutes} ${hours < 12 ? "AM" : "PM"}`;
}
