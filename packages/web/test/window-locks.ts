/** What a browser gives each window: a store of its own, and locks that all windows of a page share (Web Locks, W3C). */
type Waiting = { start(): void };
const held = new Map<string, Waiting[]>();

const request = (
  name: string,
  { signal }: { signal?: AbortSignal },
  work: () => Promise<void> | undefined,
): Promise<void> =>
  new Promise((resolve, reject) => {
    const start = () => {
      const queue = held.get(name) ?? [];
      held.set(name, queue);
      void Promise.resolve(work()).then(() => {
        const next = queue.shift();
        if (next) next.start();
        else held.delete(name);
        resolve();
      });
    };
    const queue = held.get(name);
    if (!queue) return start();
    const waiting = { start };
    queue.push(waiting);
    signal?.addEventListener('abort', () => {
      const at = queue.indexOf(waiting);
      if (at < 0) return;
      queue.splice(at, 1);
      reject(signal.reason);
    });
  });
Object.defineProperty(globalThis, 'navigator', { value: { locks: { request } }, configurable: true });

/** From now on the code runs in the window of this store; a copy of a window begins with a copy of it. */
export function inWindow(store: Map<string, string>): void {
  Object.assign(globalThis, {
    sessionStorage: {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => void store.set(key, value),
    },
  });
}
