import type { Change } from '@tolvik/core';

type Records = Pick<Change, 'puts' | 'removes'>;

/** Changes from the server that are remembered: an answer comes at most a few after the event that tells of it. */
const REMEMBERED = 16;

/**
 * How things were before each of the newest changes that came from the server. What somebody asked the server to do is
 * told by an event and by its answer, in any order; whichever is first, the way back is here.
 */
export class Arrived {
  private readonly changes: { from: number; to: number; before: Records }[] = [];

  /** What came when this window went from one version to another; `before` is what would take it back. */
  note(from: number, to: number, before: Records): void {
    this.changes.push({ from, to, before });
    if (this.changes.length > REMEMBERED) this.changes.shift();
  }

  /** How things were before the change that made a version; undefined when it did not come from the server, or long ago. */
  before(version: number): Records | undefined {
    return this.changes.find(({ from, to }) => from < version && version <= to)?.before;
  }
}
