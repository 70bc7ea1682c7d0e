import Papa from 'papaparse';

/** The cells of a table in text, separated by commas, semicolons or tabs (RFC 4180 quoting). */
export const parseTable = (text: string): string[][] =>
  Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ','],
  }).data;

/** Cells as text, separated by tabs. What a spreadsheet would take for a formula is marked as words. */
export const printTable = (rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse(rows as string[][], { delimiter: '\t', newline: '\n', escapeFormulae: true })}\n`;
