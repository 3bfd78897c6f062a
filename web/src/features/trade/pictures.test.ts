/** Everything that the core explains with a picture has one, and in it the thing that is meant is picked out. */
import { createElement, type FunctionComponent } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, test } from "vitest";
import { CastPicture } from "./CastPicture";
import { KnotPicture } from "./KnotPicture";
import { LiePicture } from "./LiePicture";
import { ListPicture } from "./ListPicture";
import { trade } from "./trade";
import { WordPicture } from "./WordPicture";

const drawn = <P extends object>(picture: FunctionComponent<P>, props: P): string =>
  renderToStaticMarkup(createElement(picture, props));
/** Numbers are numbers: a path with NaN in it is drawn as nothing. */
const whole = (svg: string) => expect(svg).not.toMatch(/NaN|undefined|null/);

describe("words", () => {
  const pictured = trade.words.filter((one) => one.drawing !== "");
  test("many have a picture", () => expect(pictured.length).toBeGreaterThan(20));
  test.each(pictured.map((one) => [one.word, one.drawing]))("%s is picked out", (_, drawing) => {
    const svg = drawn(WordPicture, { drawing });
    expect(svg).toContain("var(--signal)");
    whole(svg);
    // and it is this part of the picture: without it nothing stands out so
    const bare = drawn(WordPicture, { drawing: `${drawing.split(":")[0]}:` });
    expect(svg).not.toBe(bare);
  });
});

test.each(trade.lists.map((one) => [one.name]))("the list %s has a picture, beside its words", (list) => {
  const svg = drawn(ListPicture, { list });
  expect(svg).toContain("aria-hidden");
  expect(svg).toContain("var(--signal)");
  whole(svg);
});

test.each(trade.casts.map((one) => [one.name, one.title]))(
  "the cast %s has a picture that says what it is",
  (cast, title) => {
    const svg = drawn(CastPicture, { cast, title });
    expect(svg).toContain(`aria-label="${title.replace("'", "&#x27;")}, drawn"`);
    whole(svg);
  },
);

test.each(trade.at_a_lie.map((one) => [one.name, one.title]))(
  "%s has a picture that says what it is",
  (part, title) => {
    const svg = drawn(LiePicture, { part, title });
    expect(svg).toContain(`aria-label="${title}, drawn"`);
    whole(svg);
  },
);

test.each(trade.knots.map((one) => [one.name, one.steps.length]))(
  "the knot %s is drawn in its steps, for either hand",
  (knot, steps) => {
    const pictures = Array.from({ length: steps }, (_, step) =>
      drawn(KnotPicture, { knot, step, left: false }),
    );
    expect(new Set(pictures).size).toBe(steps);
    for (const [step, right] of pictures.entries()) {
      whole(right);
      const left = drawn(KnotPicture, { knot, step, left: true });
      expect(left).toContain("scale(-1");
      expect(right).not.toContain("scale(-1");
    }
  },
);

test("what is not explained has no picture", () => {
  expect(drawn(ListPicture, { list: "none" })).toBe("");
  expect(drawn(LiePicture, { part: "none", title: "" })).toBe("");
  expect(drawn(CastPicture, { cast: "none", title: "" })).toBe("");
  expect(drawn(WordPicture, { drawing: "" })).toBe("");
});
