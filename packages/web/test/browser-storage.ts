/** What a browser keeps for a page, for as long as the tests run. */
const kept = new Map<string, string>();
const storage = {
  get length() {
    return kept.size;
  },
  key: (i: number) => [...kept.keys()][i] ?? null,
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
  clear: () => kept.clear(),
};
// zustand looks for it on `window`.
Object.assign(globalThis, { localStorage: storage, window: globalThis });

export {};
