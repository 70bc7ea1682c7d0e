/**
 * A list of names as it is pasted: a line each, and of a table its first column. Cells that a spreadsheet put in quotes
 * come without them. Lines at the end that are empty are no names; others between keep their place.
 */
export function linesOfNames(text: string): string[] {
  const lines = text
    .replace(/\uFEFF/g, '')
    .replace(/[\r\n\u2028\u2029]+$/, '')
    .split(/\r\n|[\r\n\u2028\u2029]/)
    .map((line) => unquoted(line.split('\t')[0]).trim());
  while (lines.length > 0 && lines.at(-1) === '') lines.pop();
  return lines;
}

const unquoted = (cell: string): string =>
  /^".*"$/.test(cell.trim()) ? cell.trim().slice(1, -1).replaceAll('""', '"') : cell;
