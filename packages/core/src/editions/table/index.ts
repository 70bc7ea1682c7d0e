/** Editions as a table: a row each, a column for what a layer says, shows or is coloured. Written, edited elsewhere, read again. */
export { decodeText } from './decode-text';
export * from './read';
export { parseTable, printTable } from './text';
export * from './write';
