import type { InkRule, RecolourRule } from '../document/records';

/** A rule of one ink with all it says; null for others. */
export function inkOf(rule: RecolourRule): InkRule | null {
  const plain = { kind: 'ink' as const, out: [], apart: [], gap: 0 };
  switch (rule.kind) {
    case 'ink':
      return rule;
    case 'tint':
      return { ...plain, colour: rule.colour };
    case 'white':
      return { ...plain, colour: '#ffffff' };
    case 'black':
      return { ...plain, colour: '#000000' };
    default:
      return null;
  }
}
