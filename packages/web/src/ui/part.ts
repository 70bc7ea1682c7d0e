import { type ComponentType, type LazyExoticComponent, lazy } from 'react';

const AGAIN_AFTER_MS = 2000;

/** Parts whose code has not been asked for yet. */
const waiting: (() => Promise<unknown>)[] = [];

type Part<Props> = LazyExoticComponent<ComponentType<Props>> & { fetch(): Promise<unknown> };

/**
 * A component whose code comes when it is first shown, or when `fetchParts` is called; asked for again and again while
 * the server is away, so that it shows late and never breaks.
 */
export function part<Props>(load: () => Promise<ComponentType<Props>>): Part<Props> {
  let coming: Promise<{ default: ComponentType<Props> }> | undefined;
  const ask = async () => {
    for (;;) {
      try {
        return { default: await load() };
      } catch {
        await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER_MS));
      }
    }
  };
  const fetch = () => (coming ??= ask());
  waiting.push(fetch);
  return Object.assign(lazy(fetch), { fetch }) as Part<Props>;
}

/** Fetches the code of every part that there is so far, so that it is at hand whatever becomes of the server. */
export function fetchParts(): Promise<unknown> {
  return Promise.all(waiting.splice(0).map((fetch) => fetch()));
}
