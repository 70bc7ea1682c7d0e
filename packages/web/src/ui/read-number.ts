/** CSS px of a unit of length (CSS Values 4 §6.2). */
const UNITS: Readonly<Record<string, number>> = { px: 1, in: 96, mm: 96 / 25.4, cm: 96 / 2.54, pt: 96 / 72, pc: 16 };

/** The value of simple arithmetic as people type it into size fields, in CSS px: "24", "24*2", "100/3+4", "210mm", a comma for the point. */
export function readNumber(text: string): number | null {
  const source = text
    .trim()
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/×/g, '*');
  const tokens = source.match(/\d+\.?\d*|\.\d+|[-+*/()]|px|in|mm|cm|pt|pc/gi);
  if (!tokens || tokens.join('') !== source.replace(/\s+/g, '')) return null;
  let at = 0;
  const plainFactor = (): number => {
    const token = tokens[at++];
    if (token === '(') {
      const inner = sum();
      return tokens[at++] === ')' ? inner : Number.NaN;
    }
    return token === undefined ? Number.NaN : Number(token);
  };
  const factor = (): number => {
    if (tokens[at] === '-' || tokens[at] === '+') return tokens[at++] === '-' ? -factor() : factor();
    const value = plainFactor();
    const unit = UNITS[tokens[at]?.toLowerCase()];
    if (unit !== undefined) at++;
    return value * (unit ?? 1);
  };
  const product = (): number => {
    let value = factor();
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product();
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
