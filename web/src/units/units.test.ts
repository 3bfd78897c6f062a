import { describe, expect, test } from "vitest";
import {
  clock,
  day,
  fromShown,
  parse,
  percent,
  type System,
  sentence,
  show,
  toShown,
  type Unit,
  weekday,
} from "./units";

const plain = (text: string) => text.replaceAll("\u00a0", " ");

describe("numbers change unit", () => {
  // conversions that are exact by definition (international foot, Fahrenheit), and a mile of 5280 ft
  test.each<[number, Unit, string]>([
    [1.524, "m", "5.0 ft"],
    [0.6096, "m/s", "2.0 ft/s"],
    [20, "°C", "68 °F"],
    [254, "fish", "10.0 in"],
    [9.144, "reach", "30 ft"],
    [0.44704 * 10, "m/s air", "10 mph"],
    [3, "bead", "3.0 mm"],
    [-30, "°C", "−22 °F"],
    [-17.9, "°C", "0 °F"],
  ])("%d of %s is %s", (value, unit, shown) => {
    expect(plain(show(value, unit, "us"))).toBe(shown);
  });

  test.each<Unit>(["m", "m/s", "m/s air", "reach", "°C", "mm", "bead", "fish", "s", "g", "m²/s", "m³/s"])(
    "%s comes back as it went",
    (unit) => {
      for (const system of ["metric", "us"] satisfies System[])
        for (const value of [0, 0.37, 4.2, 31])
          expect(fromShown(toShown(value, unit, system), unit, system)).toBeCloseTo(value, 9);
    },
  );
});

describe("sentences of the core", () => {
  test("metric keeps the places that the core gave", () => {
    expect(plain(sentence("Land ⟦1.6 m⟧ above, down in ⟦2.40 s⟧.", "metric"))).toBe(
      "Land 1.6 m above, down in 2.40 s.",
    );
  });
  test("feet for those who read feet, mm for beads all the same", () => {
    expect(plain(sentence("⟦3.5 mm⟧ at ⟦1.22 m⟧ in ⟦5 m/s air⟧", "us"))).toBe("3.5 mm at 4.0 ft in 11 mph");
  });
  test("a wind is not said to be of air", () => {
    expect(plain(sentence("Wind of ⟦5 m/s air⟧", "metric"))).toBe("Wind of 5 m/s");
  });
  test("a unit that is not known stands as it is", () => {
    expect(plain(sentence("⟦3 stones⟧", "us"))).toBe("3 stones");
  });
});

describe("what a person typed", () => {
  test.each([
    ["1.2", 1.2],
    [" 1,2 ", 1.2],
    [".5", 0.5],
    ["-1", -1],
  ])("%s is a number", (typed, value) => {
    expect(parse(typed, "m", "metric")).toBeCloseTo(value);
  });
  test.each(["", "deep", "1.2.3", "1e5", "NaN", "1 m"])("%s is none", (typed) => {
    expect(parse(typed, "m", "metric")).toBeNull();
  });
  test("feet become metres", () => {
    expect(parse("5", "m", "us")).toBeCloseTo(1.524);
  });
  test("shares are whole per cent", () => {
    expect(percent(0.666)).toBe("67 %");
  });
});

test("times and days read as the browser writes them in English", () => {
  const written = (at: Date, locale: string, how: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale, how).format(at).replaceAll("\u202f", " ");
  for (let k = 0; k < 400; k++) {
    const at = new Date(2026, 0, 1, 0, 0, 0);
    at.setMinutes(k * 1327); // every hour of every month
    const text = at.toISOString();
    expect(clock(text, "metric")).toBe(written(at, "en-GB", { hour: "2-digit", minute: "2-digit" }));
    expect(clock(text, "us")).toBe(written(at, "en-US", { hour: "numeric", minute: "2-digit" }));
    expect(weekday(text)).toBe(written(at, "en-US", { weekday: "short" }));
    const [month, of] = written(at, "en-US", { month: "short", day: "numeric" }).split(" ");
    expect(day(text)).toBe(`${of} ${month}`);
  }
});
