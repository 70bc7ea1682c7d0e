/** "1 file", "12 files", "1,800 files". */
export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** "a, b, c and 9 more", apart by semicolons where a name holds a comma. */
export const few = (names: readonly string[], most = 3): string =>
  listed(names.slice(0, most)) + (names.length > most ? ` and ${(names.length - most).toLocaleString('en')} more` : '');

/** Names in a row, apart by semicolons where one holds a comma. */
export const listed = (names: readonly string[]): string =>
  names.join(names.some((name) => name.includes(',')) ? '; ' : ', ');

/** Bytes as "412 B", "1.3 KB", "38 MB"; 1 KB is 1,024 bytes. */
export function weight(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const kb = bytes / 1024;
  if (kb < 1000) return `${kb < 100 ? kb.toFixed(1) : Math.round(kb).toLocaleString('en')} KB`;
  const mb = kb / 1024;
  if (mb < 1000) return `${mb < 100 ? mb.toFixed(1) : Math.round(mb)} MB`;
  return `${(mb / 1024).toFixed(1)} GB`;
}
