/** Places as they are typed or stood at. */
import { Button } from "../../ui/parts";
import { TextField } from "./fields";

/** One half of a place: degrees, minutes and seconds as they are written, with the letter of its side before or behind. */
const HALF =
  /^([NSEWO])?\s*([+-]?\d+(?:[.,]\d+)?)\s*°?\s*(?:(\d+(?:[.,]\d+)?)\s*['′’]\s*)?(?:(\d+(?:[.,]\d+)?)\s*(?:["″”]|'')\s*)?([NSEWO])?$/i;
const SIDES = { N: 1, S: -1, E: 1, O: 1, W: -1 } as const;

function half(typed: string): { degrees: number; side: string } | null {
  const found = HALF.exec(typed.trim());
  if (!found) return null;
  const [, before, whole = "", minutes = "0", seconds = "0", behind] = found;
  const number = (text: string) => Number(text.replace(",", "."));
  const side = (before ?? behind ?? "").toUpperCase();
  const sign = SIDES[side as keyof typeof SIDES] ?? 1;
  const size = Math.abs(number(whole)) + number(minutes) / 60 + number(seconds) / 3600;
  return { degrees: (whole.startsWith("-") ? -1 : 1) * sign * size, side };
}

/** Where two halves part: at a semicolon, at a comma between them, behind a letter, or at a space between plain numbers. */
function halves(typed: string): string[] {
  const text = typed.trim();
  if (text.includes(";")) return text.split(";");
  const lettered = /^[NSEWO]/i.test(text)
    ? /^(.+?)[\s,]+([NSEWO].+)$/i.exec(text)
    : /^(.+?[NSEWO])[\s,]+(.+)$/i.exec(text);
  if (lettered) return lettered.slice(1);
  if (/,\s/.test(text)) return text.split(/,\s+/);
  const parts = text.split(/\s+/);
  return parts.length === 2 ? parts : text.split(",");
}

/** Latitude and longitude as typed, in the notations that people copy; null where they cannot be read. */
export function placeOf(typed: string): [number, number] | null {
  const [first, second, ...more] = halves(typed).map(half);
  if (!first || !second || more.length > 0) return null;
  const turned = /[EWO]/.test(first.side) || /[NS]/.test(second.side);
  return turned ? [second.degrees, first.degrees] : [first.degrees, second.degrees];
}

/** A place as it would be typed; nothing where it is not known. */
export const placeText = (
  one: { latitude?: number | null | undefined; longitude?: number | null | undefined } | null,
): string => (one?.latitude != null && one.longitude != null ? `${one.latitude}, ${one.longitude}` : "");

export const notAPlace = (typed: string): string =>
  `“${typed}” is not a place. Write latitude and longitude, as in 47.0, -15.0.`;

/** A place to be typed, or taken from where one stands. */
export function PlaceField({
  label,
  value,
  error,
  onChange,
}: {
  label: string;
  value: string;
  error: string | undefined;
  /** The new text, and what is wrong where there is none. */
  onChange: (value: string, lost?: string) => void;
}) {
  const here = () =>
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => onChange(`${coords.latitude.toFixed(5)}, ${coords.longitude.toFixed(5)}`),
      () => onChange(value, "The phone does not say where it is. Type it, as in 47.0, -15.0."),
    );
  return (
    <>
      <TextField label={label} value={value} onChange={(typed) => onChange(typed)} error={error} />
      <Button className="w-full" onClick={here}>
        I stand at it now
      </Button>
    </>
  );
}
