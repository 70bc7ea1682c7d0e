/** Ids inside one composed file: unique, stable, and independent of the ids records have. */
export type FileIds = {
  /** The id that `key` has in this file; made at first use, from `name` when names are kept. */
  idFor(key: string, name?: string): string;
  /** The id of a new mask of one ink, by which the renderer knows it; no other id begins so. */
  inkMask(): string;
};

const INK_MASK = 'ink.';

/** Whether an id is that of a mask of one ink. */
export const isInkMask = (id: string): boolean => id.startsWith(INK_MASK);

/** A layer name as an XML id (NCName); '' when nothing of it can be used. */
export function idFromName(name: string): string {
  const id = name
    .normalize('NFC')
    .trim()
    .replace(/\s+/g, '-')
    .replace(/[^\p{L}\p{N}_.-]/gu, '')
    .slice(0, 80);
  return id && (!/^[\p{L}_]/u.test(id) || isInkMask(id)) ? `_${id}` : id;
}

/** `a` to `z`, then `a1`, `b1` …: as short as ids can be. */
const short = (n: number) => String.fromCharCode(97 + (n % 26)) + (n < 26 ? '' : Math.floor(n / 26));

export function fileIds(keepNames: boolean): FileIds {
  const given = new Map<string, string>();
  const taken = new Set<string>();
  let count = 0;
  let inks = 0;
  return {
    inkMask: () => `${INK_MASK}${++inks}`,
    idFor(key, name = '') {
      const known = given.get(key);
      if (known) return known;
      const wanted = keepNames ? idFromName(name) : '';
      let id = wanted;
      if (wanted) for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
      else
        do id = short(count++);
        while (taken.has(id));
      taken.add(id);
      given.set(key, id);
      return id;
    },
  };
}
