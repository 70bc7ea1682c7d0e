import { type IntakeRules, intakeRules, READY_RULES } from '@tolvik/core';

/** One kind of intake: what it is called, where it listens unless told otherwise, what it takes. */
export type StandInKind = { name: string; port: number; key: string | null; rules: IntakeRules };

const ready = (name: string): IntakeRules => {
  const found = READY_RULES.find((rules) => rules.name === name);
  if (!found) throw new Error(`there are no rules called ${name}`);
  return found;
};

/** An app build's intake, and a print shop's that asks for a key. */
export const KINDS = {
  'app-build': {
    name: "App build's intake",
    port: 4881,
    key: null,
    // Whether all sizes are there it can tell of none by itself.
    rules: intakeRules.parse({ ...ready('App build'), complete: [], largestBytes: 100_000 }),
  },
  'print-shop': {
    name: "Print shop's intake",
    port: 4882,
    key: 'proof-before-print',
    rules: ready('Print shop'),
  },
} satisfies Record<string, StandInKind>;
