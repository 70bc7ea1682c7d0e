/** The browser's own store of small things; nothing where it lets a page have none. */
export function store(): Storage | null {
  try {
    return globalThis.localStorage;
  } catch {
    return null;
  }
}
