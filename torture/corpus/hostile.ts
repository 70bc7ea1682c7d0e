import type { ProjectRecord } from '@tolvik/core';

/** What has to become of a hostile input: it comes in (cleaned), it is refused in a sentence, or either of the two. */
export type Must = 'in' | 'refused' | 'either';

/** One hostile input and the door it knocks at. Bodies are made when they are needed, since some are large. */
export type Hostile = { name: string; kind: string; must: Must } & (
  | { door: 'bring-in'; files(bait: Bait): Record<string, string | Uint8Array> }
  | { door: 'open'; file(bait: Bait): string | Uint8Array }
  /** `layerId` is a group of the project, `boardId` an artboard. */
  | {
      door: 'edit';
      edit(of: { layerId: string; boardId: string; version: number }): {
        puts?: unknown[];
        removes?: unknown[];
        baseVersion?: unknown;
        label?: unknown;
        id?: unknown;
      };
    }
  | {
      door: 'json';
      method: 'POST' | 'PATCH';
      path: string;
      body(): string | Uint8Array;
      headers?: Record<string, string>;
    }
  | { door: 'get'; path: string }
  /** Bytes on a connection, as they are; ended early on purpose where they are not whole. */
  | { door: 'raw'; bytes(port: number, projectId: string): Uint8Array }
  | { door: 'font'; file(): Uint8Array }
);

/** Where something that reads or fetches what it should not would show. */
export type Bait = { url: string; file: string };

export const svg = (inner: string, attrs = 'width="24" height="24" viewBox="0 0 24 24"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attrs}>${inner}</svg>`;

export const drawing = (
  kind: string,
  must: Must,
  name: string,
  inner: string | ((bait: Bait) => string),
  attrs?: string,
): Hostile => ({
  kind,
  must,
  name,
  door: 'bring-in',
  files: (bait) => ({ 'hostile.svg': svg(typeof inner === 'string' ? inner : inner(bait), attrs) }),
});

export const times = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));
export const repeat = (n: number, make: (i: number) => string): string => times(n, make).join('');

export type AnyRecord = ProjectRecord;
