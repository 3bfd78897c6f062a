/** What the trade is explained by: where each part is, and what it is called. */
export const PARTS = [
  ["first-hour", "First hour"],
  ["words", "Words"],
  ["at-a-lie", "At a lie"],
  ["knots", "Knots"],
  ["casts", "Casts"],
  ["lists", "Lists"],
  ["troubles", "Troubles"],
] as const;
