/** How long until the next try while the server is away, growing. */
const RETRY_MS = 1500;
const LONGEST_RETRY_MS = 30_000;

/** The pause in ms after so many tries in a row that came to nothing. */
export const pauseAfter = (failures: number): number =>
  Math.min(LONGEST_RETRY_MS, RETRY_MS * 2 ** Math.max(0, failures - 1));
