/** Whether two values of records say the same: no order of fields counts, and a missing field is an undefined one. */
export function same(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return false;
  if (Array.isArray(one) !== Array.isArray(other)) return false;
  const [a, b] = [one, other] as Record<string, unknown>[];
  for (const name in a) if (!same(a[name], b[name])) return false;
  for (const name in b) if (b[name] !== undefined && a[name] === undefined) return false;
  return true;
}
