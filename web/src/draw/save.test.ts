import { describe, expect, it } from "vitest";
import { fileName } from "./save";

describe("what a picture is called as a file", () => {
  it.each([
    ["The outing from the side: Ash run, 1.3 m deep", "the-outing-from-the-side"],
    ["Flow of the last two weeks, from 4 m³/s", "flow-of-the-last-two-weeks-from-4-m3-s"],
    ["  : ", "picture"],
    ["Ångström & Söhne", "angstrom-sohne"],
    ["x".repeat(100), "x".repeat(60)],
  ])("%s", (label, name) => {
    expect(fileName(label)).toBe(name);
  });
});
