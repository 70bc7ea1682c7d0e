/** What a file lost or had changed on the way in: in a few words, how often, and the names of the first layers it concerns. */
export type Told = { what: string; count: number; where: string[] };

/** Notes something in a few words; `where` is the name of the layer it concerns, '' when it has none. */
export type Tell = (what: string, where?: string) => void;

const MOST_NAMES = 3;
const NAME_LENGTH = 60;

/** Gathers what is told of one file: each thing once. */
export function teller(): { tell: Tell; told: () => Told[] } {
  const known = new Map<string, Told>();
  const tell: Tell = (what, where = '') => {
    let entry = known.get(what);
    if (!entry) known.set(what, (entry = { what, count: 0, where: [] }));
    entry.count++;
    const name = where.slice(0, NAME_LENGTH);
    if (name && entry.where.length < MOST_NAMES && !entry.where.includes(name)) entry.where.push(name);
  };
  return { tell, told: () => [...known.values()] };
}

/** "a script, 3 times, in Wave and Crest". */
export function toldInWords({ what, count, where }: Told): string {
  const times = count > 1 ? `, ${count} times` : '';
  const names = where.length > 1 ? `${where.slice(0, -1).join(', ')} and ${where.at(-1)}` : where[0];
  return `${what}${times}${names ? `, in ${names}` : ''}`;
}
