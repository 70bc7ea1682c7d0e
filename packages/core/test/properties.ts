/**
 * How often a property is tried. `npm test` tries the same cases every time, so that it passes or fails for a reason;
 * `PROPERTY_TIMES=50 PROPERTY_SEED=… npx jest` looks for cases nobody has seen yet.
 */
export const runs = (times: number): { numRuns: number } => ({
  numRuns: Math.ceil(times * Number(process.env.PROPERTY_TIMES ?? 1)),
});
