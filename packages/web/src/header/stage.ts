import type { ComponentType } from 'react';

/** One stage of a project: its address, its tab, and its page, whose code is loaded when it is first gone to. */
export type Stage = {
  route: string;
  title: string;
  /** Goes there from anywhere in the project. */
  keys: string;
  /** What stands in it now, told in its tab; `bad` when something there holds an export up. */
  useStanding(): { note: string; bad?: boolean };
  Page: ComponentType & { fetch(): Promise<unknown> };
  /** Addresses below it that it shows itself. */
  inside?: readonly string[];
};
