/** Works on a list, several at a time; the first that fails ends it, once those under way have ended. */
export async function several<T>(list: readonly T[], atOnce: number, work: (one: T) => Promise<void>): Promise<void> {
  let next = 0;
  let failed = false;
  const worker = async () => {
    while (next < list.length && !failed) {
      try {
        await work(list[next++]);
      } catch (error) {
        failed = true;
        throw error;
      }
    }
  };
  const ended = await Promise.allSettled(Array.from({ length: Math.min(atOnce, list.length) }, worker));
  for (const each of ended) if (each.status === 'rejected') throw each.reason;
}
