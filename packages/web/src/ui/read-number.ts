/** The value of simple arithmetic as people type it into size fields: "24", "24*2", "100/3+4", a comma for the point. */
export function readNumber(text: string): number | null {
  const source = text
    .trim()
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/\s*px$/i, '')
    .replace(/×/g, '*');
  const tokens = source.match(/\d+\.?\d*|\.\d+|[-+*/()]/g);
  if (!tokens || tokens.join('') !== source.replace(/\s+/g, '')) return null;
  let at = 0;
  const factor = (): number => {
    const token = tokens[at++];
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const inner = sum();
      return tokens[at++] === ')' ? inner : Number.NaN;
    }
    return token === undefined ? Number.NaN : Number(token);
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
