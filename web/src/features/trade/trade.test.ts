import { describe, expect, it } from "vitest";
import { trade, wordsIn } from "./trade";

const met = (text: string) => wordsIn(text).map((one) => one.word.word);

describe("words of the trade in a text", () => {
  it("are found in every form, longest first, and as whole words", () => {
    expect(met("A dead drift, then two ticks.")).toEqual(["dead drift", "tick"]);
    expect(met("Beads sink; beading does not, nor does a ticket.")).toEqual(["bead"]);
    expect(met("Dry-dropper")).toEqual(["dry-dropper"]);
    expect(met("ausgelegt")).toEqual([]);
  });

  it("say where they stand", () => {
    const text = "Set the Point Fly deeper";
    expect(wordsIn(text).map(({ from, to }) => text.slice(from, to))).toEqual(["Point Fly"]);
  });

  it("have a meaning each, and no form stands for two", () => {
    const forms = trade.words.flatMap((word) => word.forms);
    expect(new Set(forms).size).toBe(forms.length);
    expect(forms.every((form) => /^[\p{L} -]+$/u.test(form))).toBe(true);
    expect(trade.words.every((word) => word.meaning.length > 8)).toBe(true);
  });
});
