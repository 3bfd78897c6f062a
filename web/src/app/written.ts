/** The name of a question, by all that goes into it: the same text as the query store's own, and quicker to come by. */

/** What was written out before: a water is in every question of its lie, and each is named several times a drawing. */
const known = new WeakMap<object, string>();

/** Write data out, the fields of an object in the order of their names; undefined for what is not data. Nothing asked of is changed later. */
export function written(one: unknown): string | undefined {
  if (typeof one !== "object" || one === null) return JSON.stringify(one);
  const before = known.get(one);
  if (before !== undefined) return before;
  const text = Array.isArray(one)
    ? `[${one.map((part) => written(part) ?? "null").join()}]`
    : `{${Object.entries(one)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .flatMap(([name, part]) => {
          const value = written(part);
          return value === undefined ? [] : `${JSON.stringify(name)}:${value}`;
        })
        .join()}}`;
  known.set(one, text);
  return text;
}

export const nameOf = (key: readonly unknown[]): string => written(key) ?? "";
