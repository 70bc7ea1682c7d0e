/** "1 file", "12 files", "1,800 files". */
export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** "a, b, c and 9 more", apart by semicolons where a name holds a comma. */
export const few = (names: readonly string[], most = 3): string =>
  listed(names.slice(0, most)) + (names.length > most ? ` and ${(names.length - most).toLocaleString('en')} more` : '');

/** Names in a row, apart by semicolons where one holds a comma. */
export const listed = (names: readonly string[]): string =>
  names.join(names.some((name) => name.includes(',')) ? '; ' : ', ');
