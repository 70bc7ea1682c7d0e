/** A pair that could belong together, by their places in two lists, and how well. */
export type Candidate = { one: number; other: number; score: number };

/** More of either than this are paired the best first, which is nearly as good and never slow. */
const MOST_EXACT = 120;

/**
 * Pairs each with at most one of the others so that the scores add up to the most (the assignment problem, by
 * shortest augmenting paths); beyond `MOST_EXACT` the best pairs first. Deterministic: what is as good goes by place.
 */
export function assign(candidates: readonly Candidate[]): Candidate[] {
  const ones = [...new Set(candidates.map(({ one }) => one))].sort((a, b) => a - b);
  const others = [...new Set(candidates.map(({ other }) => other))].sort((a, b) => a - b);
  const sorted = [...candidates].sort((a, b) => b.score - a.score || a.one - b.one || a.other - b.other);
  return ones.length > MOST_EXACT || others.length > MOST_EXACT ? bestFirst(sorted) : exactly(sorted, ones, others);
}

function bestFirst(sorted: readonly Candidate[]): Candidate[] {
  const [left, right] = [new Set<number>(), new Set<number>()];
  return sorted.filter(({ one, other }) => {
    if (left.has(one) || right.has(other)) return false;
    left.add(one);
    right.add(other);
    return true;
  });
}

/** The Hungarian method with potentials, O(n³); rows are `ones`, columns `others` with a column for nobody each. */
function exactly(sorted: readonly Candidate[], ones: readonly number[], others: readonly number[]): Candidate[] {
  const byPair = new Map(sorted.map((candidate) => [`${candidate.one} ${candidate.other}`, candidate]));
  const rows = ones.length;
  const columns = others.length + rows;
  const cost = (row: number, column: number): number =>
    column < others.length ? -(byPair.get(`${ones[row]} ${others[column]}`)?.score ?? -1e6) : 0;
  const rowPotential = new Float64Array(rows + 1);
  const columnPotential = new Float64Array(columns + 1);
  const rowOf = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    const least = new Float64Array(columns + 1).fill(Number.POSITIVE_INFINITY);
    const from = new Int32Array(columns + 1);
    const used = new Uint8Array(columns + 1);
    rowOf[0] = row;
    let at = 0;
    do {
      used[at] = 1;
      const current = rowOf[at];
      let [step, next] = [Number.POSITIVE_INFINITY, 0];
      for (let column = 1; column <= columns; column++) {
        if (used[column]) continue;
        const reduced = cost(current - 1, column - 1) - rowPotential[current] - columnPotential[column];
        if (reduced < least[column]) {
          least[column] = reduced;
          from[column] = at;
        }
        if (least[column] < step) {
          step = least[column];
          next = column;
        }
      }
      for (let column = 0; column <= columns; column++) {
        if (used[column]) {
          rowPotential[rowOf[column]] += step;
          columnPotential[column] -= step;
        } else least[column] -= step;
      }
      at = next;
    } while (rowOf[at] !== 0);
    do {
      const before = from[at];
      rowOf[at] = rowOf[before];
      at = before;
    } while (at !== 0);
  }
  const pairs: Candidate[] = [];
  for (let column = 1; column <= others.length; column++) {
    const found = rowOf[column] > 0 ? byPair.get(`${ones[rowOf[column] - 1]} ${others[column - 1]}`) : undefined;
    if (found) pairs.push(found);
  }
  return pairs.sort((a, b) => a.one - b.one);
}
