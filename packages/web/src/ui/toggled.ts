/** A set with one value more or less. */
export function toggled<T>(set: ReadonlySet<T>, value: T, on: boolean): ReadonlySet<T> {
  const next = new Set(set);
  on ? next.add(value) : next.delete(value);
  return next;
}
