import { several } from '@tolvik/core';
import { type ComponentType, createElement, lazy, useState } from 'react';

const AGAIN_AFTER_MS = 2000;

/** Parts whose code has not been asked for yet. */
const waiting: (() => Promise<unknown>)[] = [];

export type Part<Props> = ComponentType<Props> & { fetch(): Promise<unknown> };

/**
 * A component whose code comes when it is first shown, or when `fetchParts` is called; asked for again and again while
 * the server is away, so that it shows late and never breaks. What is here already is shown at once.
 */
export function part<Props extends object>(load: () => Promise<ComponentType<Props>>): Part<Props> {
  let here: ComponentType<Props> | undefined;
  const fetch = later(async () => {
    here = await load();
    return { default: here };
  });
  const Later = lazy(fetch);
  // biome-ignore lint/correctness/noComponentHookFactories: made once for each part, where its module is read
  function Shown(props: Props) {
    // What it began with it stays, so that nothing in it is lost when its code arrives.
    const [Now] = useState(() => here ?? Later);
    return createElement(Now as ComponentType<Props>, props);
  }
  return Object.assign(Shown, { fetch });
}

/** Code that comes when it is first asked for, or when `fetchParts` is called; asked for again as a `part` is. */
export function later<Code>(load: () => Promise<Code>): () => Promise<Code> {
  let coming: Promise<Code> | undefined;
  const fetch = () => (coming ??= fetched(load));
  waiting.push(fetch);
  return fetch;
}

/** What code gives once it is here; asked for again and again while the server is away. */
export async function fetched<Code>(load: () => Promise<Code>): Promise<Code> {
  for (;;) {
    try {
      return await load();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER_MS));
    }
  }
}

/** Parts fetched at once: of the six connections that a browser opens, most are left for what a person asks for. */
const AT_ONCE = 2;

/** Fetches the code of every part that there is so far, so that it is at hand whatever becomes of the server. */
export const fetchParts = (): Promise<void> =>
  several(waiting.splice(0), AT_ONCE, async (fetch) => void (await fetch()));
