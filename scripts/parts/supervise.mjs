/** Keeping what was started going: what ends by itself is started again, with growing pauses. */

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** Who ran for so long is taken for well. */
const WELL_AFTER_MS = 60_000;

/** How long to wait before the next start after so many in a row that ended soon. */
export const pauseAfter = (failures) => Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** Math.max(0, failures - 1));

/**
 * Starts something with `start`, which answers how it runs: `ended` resolves with why it ended. Each time it ends by
 * itself it is started again; `onGiveUp` is called when it ended `mostInARow` times without having been well.
 * Answers how to stop all this.
 */
export async function keepRunning({
  name,
  start,
  say,
  onGiveUp,
  mostInARow = 20,
  wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
}) {
  let stopped = false;
  let failures = 0;
  const first = await start();
  const watch = async (running) => {
    let current = running;
    while (!stopped) {
      const from = Date.now();
      const why = current ? await current.ended : 'could not be started';
      if (stopped) return;
      failures = current && Date.now() - from > WELL_AFTER_MS ? 1 : failures + 1;
      if (failures >= mostInARow) return onGiveUp(`${name} ended ${failures} times in a row (${why}); giving up.`);
      const pause = pauseAfter(failures);
      say(`${name} ended (${why}); it is started again in ${pause / 1000} s.`);
      await wait(pause);
      if (stopped) return;
      current = await start().catch((error) => {
        say(error.message);
        return null;
      });
      if (current) say(`${name} runs again.`);
    }
  };
  void watch(first);
  return () => void (stopped = true);
}
