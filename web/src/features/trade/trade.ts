/** What the core explains of the trade: it comes with the app, so that it is there without signal. */
import written from "./trade.json";

export const trade = written;
export type Word = (typeof written.words)[number];
export type Checklist = (typeof written.lists)[number];

const byForm = new Map(
  written.words.flatMap((word) => word.forms.map((form): [string, Word] => [form.toLowerCase(), word])),
);

/** Letters, spaces and hyphens, as its test holds. Longest first: "dead drift" is not a drift that is dead. */
const PATTERN = new RegExp(
  `(?<![\\p{L}-])(?:${[...byForm.keys()].sort((a, b) => b.length - a.length).join("|")})(?![\\p{L}-])`,
  "giu",
);

export interface Met {
  word: Word;
  from: number;
  to: number;
}

/** Where words of the trade stand in a text. */
export const wordsIn = (text: string): Met[] =>
  [...text.matchAll(PATTERN)].flatMap((found) => {
    const word = byForm.get(found[0].toLowerCase());
    return word ? [{ word, from: found.index, to: found.index + found[0].length }] : [];
  });
