/** What an answer about what the server made says of when to ask again. */
export type Answer = { version: number; missing: number };

/** How soon an answer of an earlier version is asked for again, in ms. */
const BEHIND_MS = 600;
const SOON_MS = 1200;
/** While so many are missing, one asks less often. */
const MANY = 500;
const MANY_MS = 3000;
const LONGEST_MS = 60_000;
/** Answers in vain before the pauses grow. */
const PATIENCE = 5;

/**
 * When weights are asked for again, in ms: soon when the answer is of an earlier version or few are missing, seldom
 * while thousands are being made, and ever more seldom while nothing comes. What cannot be made is not asked for; false
 * when nothing is missing. It may be asked of one answer, known by when it came, any number of times.
 */
export function asksAgain(): (answer: Answer | undefined, answeredAt: number, version: number) => number | false {
  let last = -1;
  let inVain = 0;
  let countedAt = -1;
  return (answer, answeredAt, version) => {
    if (!answer) return false;
    if (answer.version < version) return BEHIND_MS;
    const { missing } = answer;
    if (answeredAt !== countedAt) inVain = missing === last ? inVain + 1 : 0;
    [last, countedAt] = [missing, answeredAt];
    const pause = missing > MANY ? MANY_MS : SOON_MS;
    return missing > 0 && Math.min(LONGEST_MS, pause * 2 ** Math.max(0, inVain - PATIENCE));
  };
}
