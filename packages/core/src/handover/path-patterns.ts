import { RE2JS } from 're2js';

/**
 * Patterns of paths as one automaton, in the words of RE2: `*` is anything but `/`, `**` anything, `?` one character but
 * `/`, and anything else itself. Matching takes as long as the path is long, whatever the patterns are and however many
 * there are.
 */
export function compiledPatterns(patterns: readonly string[]): (path: string) => boolean {
  const whole = RE2JS.compile(`^(?:${patterns.map(asExpression).join('|')})$`, RE2JS.DOTALL);
  return (path) => whole.test(path);
}

const known = new WeakMap<readonly string[], (path: string) => boolean>();

/** Whether one of the patterns of a list fits the whole path; a list is compiled once. */
export function fitsAny(patterns: readonly string[], path: string): boolean {
  let fits = known.get(patterns);
  if (!fits) known.set(patterns, (fits = compiledPatterns(patterns)));
  return fits(path);
}

function asExpression(pattern: string): string {
  let expression = '';
  for (let i = 0; i < pattern.length; i++) {
    const star = pattern[i] === '*';
    if (star && pattern[i + 1] === '*') {
      expression += '.*';
      i++;
    } else expression += star ? '[^/]*' : pattern[i] === '?' ? '[^/]' : RE2JS.quote(pattern[i]);
  }
  return expression;
}
