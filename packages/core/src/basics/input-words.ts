import type { ZodError } from 'zod';
import { count, listed } from './words';

type Issue = ZodError['issues'][number];

/** How a schema library begins what it says by itself; what a schema says in words of its own begins otherwise. */
const ITS_OWN = /^(Too (small|big)|Invalid |Unrecognized key|Not a multiple)/;

const KINDS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
};

/** What has parts is counted by them. */
const PARTS: Record<string, readonly [one: string, many: string]> = {
  string: ['letter', 'letters'],
  array: ['entry', 'entries'],
  set: ['entry', 'entries'],
  object: ['field', 'fields'],
};

function limitWords(
  origin: string,
  limit: number | bigint,
  inclusive: boolean | undefined,
  way: 'least' | 'most',
): string {
  const parts = PARTS[origin];
  if (parts) return `${count(Number(limit), ...parts)} at ${way}`;
  const number = Number(limit).toLocaleString('en', { maximumFractionDigits: 6 });
  if (inclusive !== false) return `a number of ${number} at ${way}`;
  return `a number ${way === 'least' ? 'above' : 'below'} ${number}`;
}

/** What would be accepted in place of what came in, in words: the schema's own where it has some. */
export function inputWords(issue: Issue): string {
  if (!ITS_OWN.test(issue.message)) return issue.message;
  switch (issue.code) {
    case 'too_small':
      return limitWords(issue.origin, issue.minimum, issue.inclusive, 'least');
    case 'too_big':
      return limitWords(issue.origin, issue.maximum, issue.inclusive, 'most');
    case 'invalid_type': {
      const kind = KINDS[issue.expected] ?? `a ${issue.expected}`;
      return /received undefined$/.test(issue.message) ? `${kind}; it is missing` : kind;
    }
    case 'invalid_value':
      return issue.values.length === 1
        ? JSON.stringify(issue.values[0])
        : `one of ${listed(issue.values.map((each) => String(each)))}`;
    case 'unrecognized_keys':
      return `nothing called ${listed(issue.keys.map((key) => `"${key.slice(0, 60)}"`))}`;
    case 'not_multiple_of':
      return `a multiple of ${issue.divisor}`;
    case 'invalid_union': {
      const { options } = issue as { options?: readonly unknown[] };
      if (options?.length) return `one of ${listed(options.map(String))}`;
      // What any of its ways would take, each once.
      const ways = new Set(issue.errors.flatMap(([first]) => (first ? [inputWords(first)] : [])));
      return ways.size > 0 ? [...ways].slice(0, 4).join(', or ') : 'something else';
    }
    case 'invalid_format':
      return issue.format === 'regex' ? 'text of another form' : `a ${issue.format}`;
    default:
      return 'something else';
  }
}
