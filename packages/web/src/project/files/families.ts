export type FontFamily = { family: string; weights: readonly number[] };

type Named = { family: string; weight: number };

/** The families text can be set in, each with its weights: those added to the project first, then the shipped ones. */
export function familiesOf(added: readonly Named[], shipped: readonly Named[]): FontFamily[] {
  const weights = new Map<string, Set<number>>();
  for (const { family, weight } of [...added, ...shipped])
    weights.set(family, (weights.get(family) ?? new Set()).add(weight));
  return [...weights].map(([family, set]) => ({ family, weights: [...set].sort((a, b) => a - b) }));
}
