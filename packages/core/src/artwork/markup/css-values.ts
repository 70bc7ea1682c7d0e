import { ABSOLUTE_UNITS } from '../../geometry/viewport';

/** What lengths are measured by (CSS Values 4 §6): px of the font, of the root's font, of the viewport, and what 100 % is. */
export type Measures = {
  fontSize: number;
  /** Shares of the font size that `ex` and `ch` are; what fonts have about where the font is not known. */
  font?: { ex: number; ch: number };
  rootFontSize: number;
  viewWidth: number;
  viewHeight: number;
  percentOf: number;
};

/** Of the font size, where no font can be asked: what fonts have about (CSS Values 4 §6.1.1). */
const EX_OF_EM = 0.5;

function unitPx(unit: string, measures: Measures): number | undefined {
  const absolute = ABSOLUTE_UNITS[unit];
  if (absolute !== undefined) return absolute;
  const { fontSize, font, rootFontSize, viewWidth, viewHeight, percentOf } = measures;
  switch (unit) {
    case 'em':
      return fontSize;
    case 'rem':
      return rootFontSize;
    case 'ex':
      return fontSize * (font?.ex ?? EX_OF_EM);
    case 'ch':
      return fontSize * (font?.ch ?? EX_OF_EM);
    case 'vw':
      return viewWidth / 100;
    case 'vh':
      return viewHeight / 100;
    case 'vmin':
      return Math.min(viewWidth, viewHeight) / 100;
    case 'vmax':
      return Math.max(viewWidth, viewHeight) / 100;
    case '%':
      return percentOf / 100;
    default:
      return undefined;
  }
}

const NUMBER = /^[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/i;

/** A length, percentage, number or `calc()` of them in px; undefined when it is none. */
export function lengthPx(text: string, measures: Measures): number | undefined {
  const value = text.trim().toLowerCase();
  if (value.includes('('))
    return calculated(value, (number, unit) => (unit === '' ? number : scaled(number, unitPx(unit, measures))));
  const match = NUMBER.exec(value);
  if (!match) return undefined;
  return scaled(Number(match[0]), unitPx(value.slice(match[0].length), measures));
}

const scaled = (number: number, by: number | undefined): number | undefined =>
  by === undefined || !Number.isFinite(number) ? undefined : number * by;

const DEEPEST = 30;

/** A math function (CSS Values 4 §10): `calc`, `min`, `max`, `clamp`, with + − × ÷ and brackets; undefined when it cannot be read. */
export function calculated(
  text: string,
  value: (number: number, unit: string) => number | undefined,
): number | undefined {
  let at = 0;
  const space = () => {
    while (/\s/.test(text[at] ?? '')) at++;
  };
  const sum = (depth: number): number | undefined => {
    let left = product(depth);
    for (;;) {
      space();
      const operator = text[at];
      if (left === undefined || (operator !== '+' && operator !== '-')) return left;
      at++;
      const right = product(depth);
      if (right === undefined) return undefined;
      left += operator === '+' ? right : -right;
    }
  };
  const product = (depth: number): number | undefined => {
    let left = single(depth);
    for (;;) {
      space();
      const operator = text[at];
      if (left === undefined || (operator !== '*' && operator !== '/')) return left;
      at++;
      const right = single(depth);
      if (right === undefined) return undefined;
      left = operator === '*' ? left * right : left / right;
    }
  };
  const single = (depth: number): number | undefined => {
    space();
    if (depth > DEEPEST) return undefined;
    const name = /^(calc|min|max|clamp)?\(/.exec(text.slice(at, at + 6));
    if (name) {
      at += name[0].length;
      const parts: number[] = [];
      for (;;) {
        const part = sum(depth + 1);
        if (part === undefined) return undefined;
        parts.push(part);
        space();
        if (text[at] !== ',') break;
        at++;
      }
      if (text[at] !== ')') return undefined;
      at++;
      if (name[1] === 'min') return Math.min(...parts);
      if (name[1] === 'max') return Math.max(...parts);
      if (name[1] === 'clamp') return parts.length === 3 ? Math.max(parts[0], Math.min(parts[1], parts[2])) : undefined;
      return parts.length === 1 ? parts[0] : undefined;
    }
    const number = NUMBER.exec(text.slice(at, at + 40));
    if (!number) return undefined;
    at += number[0].length;
    const unit = /^(?:[a-z]+|%)?/.exec(text.slice(at, at + 10))?.[0] ?? '';
    at += unit.length;
    return value(Number(number[0]), unit);
  };
  const result = sum(0);
  space();
  return at === text.length && result !== undefined && Number.isFinite(result) ? result : undefined;
}

/** What custom properties may grow to when they are put in the place of `var()`. */
const LONGEST = 100_000;

/** A value with its `var()` replaced (CSS Custom Properties 1 §3); null when one has no value and no fallback. */
export function withVariables(value: string, lookup: (name: string) => string | null, depth = 0): string | null {
  const start = /\bvar\(/i.exec(value);
  if (!start) return value;
  if (depth > DEEPEST || value.length > LONGEST) return null;
  let open = 1;
  let end = start.index + 4;
  let comma = -1;
  for (; end < value.length && open > 0; end++) {
    if (value[end] === '(') open++;
    else if (value[end] === ')') open--;
    else if (value[end] === ',' && open === 1 && comma < 0) comma = end;
  }
  if (open > 0) return null;
  const name = value.slice(start.index + 4, comma < 0 ? end - 1 : comma).trim();
  const known = lookup(name);
  const given = known ?? (comma < 0 ? null : withVariables(value.slice(comma + 1, end - 1).trim(), lookup, depth + 1));
  return given === null
    ? null
    : withVariables(`${value.slice(0, start.index)}${given}${value.slice(end)}`, lookup, depth + 1);
}

const ANGLES: Record<string, number> = { '': 1, deg: 1, rad: 180 / Math.PI, grad: 0.9, turn: 360 };

/** An angle in degrees (CSS Values 4 §7.1); undefined when it is none. */
export function degrees(text: string): number | undefined {
  const value = text.trim().toLowerCase();
  if (value.includes('(')) return calculated(value, (number, unit) => scaled(number, ANGLES[unit]));
  const match = NUMBER.exec(value);
  return match ? scaled(Number(match[0]), ANGLES[value.slice(match[0].length)]) : undefined;
}

/** Text split where `separates` holds and no bracket is open; parts without spaces around them. */
export function splitOutside(text: string, separates: RegExp): string[] {
  const parts: string[] = [];
  let open = 0;
  let part = '';
  for (const letter of text) {
    if (letter === '(') open++;
    if (letter === ')') open--;
    if (open === 0 && separates.test(letter)) {
      parts.push(part.trim());
      part = '';
    } else part += letter;
  }
  return [...parts, part.trim()];
}

/** Arguments of a function, split at commas or spaces that are in no brackets. */
export const argumentsOf = (text: string): string[] => splitOutside(text, /[,\s]/).filter(Boolean);

/** Functions in a row, such as `rotate(3deg) scale(2)`, with their arguments; null when the text is something else. */
export function functionsIn(text: string): { name: string; args: string }[] | null {
  const found: { name: string; args: string }[] = [];
  let rest = text.trim();
  while (rest) {
    const head = /^([a-z0-9-]+)\s*\(/i.exec(rest);
    if (!head) return null;
    let open = 1;
    let end = head[0].length;
    for (; end < rest.length && open > 0; end++) open += rest[end] === '(' ? 1 : rest[end] === ')' ? -1 : 0;
    if (open > 0) return null;
    found.push({ name: head[1].toLowerCase(), args: rest.slice(head[0].length, end - 1).trim() });
    rest = rest.slice(end).replace(/^[\s,]+/, '');
  }
  return found;
}
