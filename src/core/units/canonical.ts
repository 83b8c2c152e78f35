/** One spelling for equal values, whatever the order in which their keys came. */

/** JSON with the keys of every object in order; keys without a value are left out, as JSON does. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, one: unknown) =>
    one !== null && typeof one === "object" && !Array.isArray(one)
      ? Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))
      : one,
  );
}
