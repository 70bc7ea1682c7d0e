import fc from 'fast-check';
import {
  type Allowed,
  allowedSteps,
  type Begun,
  type Found,
  folderSteps,
  pathWithin,
  printBegun,
  printReceipt,
  type Receipt,
  type ReceiptFile,
  readBegun,
  readReceipt,
  receipt,
  receiptAfter,
} from '../src';
import { runs } from './properties';

const hash = (content: string) =>
  [...content]
    .reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) >>> 0, 7)
    .toString(16)
    .padStart(64, '0');
const file = (path: string, content: string): ReceiptFile => ({
  path,
  bytes: content.length,
  sha256: hash(content),
  widthPx: 24,
  heightPx: 24,
  dpi: 96,
  format: 'png',
  piece: 'p',
  output: 'o',
});
const head = (number: number) => ({
  version: 1 as const,
  project: { id: 'project', name: 'Harbour' },
  delivery: { id: `d${number}`, number, at: '2026-01-02T03:04:05.000Z' },
});

/** A folder as a map of path to content, with the receipt that lies in it. */
type Folder = { files: Map<string, string>; receipt: Receipt | null };
const found = ({ files }: Folder): Map<string, Found> =>
  new Map([...files].map(([path, content]) => [path, { bytes: content.length, sha256: hash(content) }]));

type Delivery = { number: number; files: Map<string, string>; some: boolean };
const wantedOf = ({ files }: Delivery) => [...files].map(([path, content]) => file(path, content));

/** Brings a folder to a delivery, as the server does; `until` ends it after so many things were written or removed. */
function bring(folder: Folder, delivery: Delivery, allowed: Allowed, begun?: Begun, until = Infinity) {
  const wanted = wantedOf(delivery);
  const steps = folderSteps(found(folder), folder.receipt, wanted, { some: delivery.some, begun });
  const { write, remove } = allowedSteps(steps, wanted, allowed);
  const next = receiptAfter(head(delivery.number), folder.receipt, wanted, steps, allowed, delivery.some);
  const began = new Map(write.map(({ path, sha256, bytes }) => [path, { sha256, bytes }]));
  let done = 0;
  for (const { path } of write) if (done++ < until) folder.files.set(path, delivery.files.get(path) ?? '');
  for (const path of remove) if (done++ < until) folder.files.delete(path);
  if (done < until) folder.receipt = next;
  return { steps, write, remove, began };
}

const NO: Allowed = { removeLeftovers: false, replaceForeign: false };

test('the first time all is new, the second nothing is written', () => {
  const folder: Folder = { files: new Map(), receipt: null };
  const delivery = {
    number: 1,
    files: new Map([
      ['a.png', 'A'],
      ['b/c.png', 'C'],
    ]),
    some: false,
  };
  expect(bring(folder, delivery, NO).steps.fresh.map(({ path }) => path)).toEqual(['a.png', 'b/c.png']);
  const again = bring(folder, delivery, NO);
  expect([again.write, again.remove, again.steps.same.length]).toEqual([[], [], 2]);
});

test('what is no longer made is left over, by name, and goes with a yes', () => {
  const folder: Folder = { files: new Map(), receipt: null };
  bring(
    folder,
    {
      number: 1,
      files: new Map([
        ['a.png', 'A'],
        ['b.png', 'B'],
      ]),
      some: false,
    },
    NO,
  );
  const second = { number: 2, files: new Map([['a.png', 'A2']]), some: false };
  const { steps } = bring(folder, second, NO);
  expect([steps.changed.map(({ path }) => path), steps.leftovers]).toEqual([['a.png'], ['b.png']]);
  expect([...folder.files.keys()]).toEqual(['a.png', 'b.png']);
  // It is told again the next time, and taken away when somebody says so.
  expect(bring(folder, second, { ...NO, removeLeftovers: true }).remove).toEqual(['b.png']);
  expect([...folder.files.keys()]).toEqual(['a.png']);
  expect(folder.receipt?.leftovers).toEqual([]);
});

test('what somebody else put or changed is never replaced or removed without a yes', () => {
  const folder: Folder = { files: new Map([['a.png', 'theirs']]), receipt: null };
  const delivery = {
    number: 1,
    files: new Map([
      ['a.png', 'A'],
      ['b.png', 'B'],
    ]),
    some: false,
  };
  expect(bring(folder, delivery, { ...NO, removeLeftovers: true }).steps.foreign).toEqual([
    { path: 'a.png', wanted: true },
  ]);
  expect(folder.files.get('a.png')).toBe('theirs');
  folder.files.set('b.png', 'edited');
  expect(
    bring(folder, { ...delivery, number: 2 }, NO)
      .steps.foreign.map(({ path }) => path)
      .sort(),
  ).toEqual(['a.png', 'b.png']);
  // Not made any more, and changed since: left alone, also by who removes leftovers.
  const none = { number: 3, files: new Map<string, string>(), some: false };
  expect(bring(folder, none, { removeLeftovers: true, replaceForeign: true }).steps.foreign).toEqual([
    { path: 'b.png', wanted: false },
  ]);
  expect(folder.files.get('b.png')).toBe('edited');
  bring(folder, { ...delivery, number: 4 }, { ...NO, replaceForeign: true });
  expect([...folder.files]).toEqual([
    ['a.png', 'A'],
    ['b.png', 'B'],
  ]);
});

test('a delivery of some files says nothing of the others', () => {
  const folder: Folder = { files: new Map(), receipt: null };
  bring(
    folder,
    {
      number: 1,
      files: new Map([
        ['a.png', 'A'],
        ['b.png', 'B'],
      ]),
      some: false,
    },
    NO,
  );
  const { steps } = bring(
    folder,
    { number: 2, files: new Map([['a.png', 'A2']]), some: true },
    { ...NO, removeLeftovers: true },
  );
  expect(steps.leftovers).toEqual([]);
  expect(folder.receipt?.files.map(({ path }) => path)).toEqual(['a.png', 'b.png']);
  expect(bring(folder, { number: 3, files: new Map([['a.png', 'A2']]), some: false }, NO).steps.leftovers).toEqual([
    'b.png',
  ]);
});

const paths = fc.constantFrom('a.png', 'b.png', 'c.svg', 'd/e.png', 'd/f.pdf');
const content = fc.constantFrom('1', '2', '3');
const delivery = fc.record({
  files: fc.dictionary(paths, content).map((files) => new Map(Object.entries(files))),
  some: fc.boolean(),
});
const event = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('deliver' as const),
      delivery,
      allowed: fc.record({ removeLeftovers: fc.boolean(), replaceForeign: fc.boolean() }),
      until: fc.option(fc.nat(4), { nil: undefined }),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('theirs' as const),
      path: paths,
      content: fc.constantFrom('x', 'y', '1'),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('removed' as const), path: paths }) },
);

test('whatever happened to a folder: the wanted files and what was left alone, and a writing that was ended goes on', () => {
  fc.assert(
    fc.property(fc.array(event, { maxLength: 14 }), delivery, (events, last) => {
      const folder: Folder = { files: new Map(), receipt: null };
      let begun: Begun | undefined;
      let number = 0;
      /** Contents that somebody else put, by path: none of them goes without a yes. */
      const theirs = new Map<string, string>();
      for (const each of events) {
        if (each.kind === 'theirs') {
          folder.files.set(each.path, each.content);
          theirs.set(each.path, each.content);
        } else if (each.kind === 'removed') {
          folder.files.delete(each.path);
          theirs.delete(each.path);
        } else {
          const { began } = bring(folder, { number: ++number, ...each.delivery }, each.allowed, begun, each.until);
          begun =
            each.until === undefined
              ? undefined
              : { files: new Map([...(begun?.files ?? []), ...began]), writings: [] };
          for (const path of theirs.keys()) if (folder.files.get(path) !== theirs.get(path)) theirs.delete(path);
        }
      }
      const before = new Map(folder.files);
      const wanted = { number: ++number, ...last, some: false };
      const { steps, remove } = bring(folder, wanted, { removeLeftovers: true, replaceForeign: false }, begun);
      const foreign = new Set(steps.foreign.map(({ path }) => path));
      // Every file of others is there as it was, unless it is what is wanted byte for byte.
      for (const path of foreign) expect(folder.files.get(path)).toBe(before.get(path));
      for (const [path, text] of last.files) if (!foreign.has(path)) expect(folder.files.get(path)).toBe(text);
      // What goes was written by us: nobody else's content is among it.
      for (const path of remove)
        expect(theirs.get(path) === before.get(path) && !['1', '2', '3'].includes(before.get(path) ?? '')).toBe(false);
      // Again there is nothing to do, and the receipt is the same.
      const receiptBefore = folder.receipt;
      const again = bring(folder, wanted, { removeLeftovers: true, replaceForeign: false });
      expect([again.write, again.remove]).toEqual([[], []]);
      expect(folder.receipt).toEqual(receiptBefore);
      expect(receipt.parse(JSON.parse(printReceipt(folder.receipt as Receipt)))).toEqual(folder.receipt);
    }),
    runs(1500),
  );
});

test.each(['', '{', '[]', '{"version":2}', '{"version":1,"files":[{"path":"../up"}]}', 'null'])(
  'a receipt that is %s is none',
  (text) => expect(readReceipt(text)).toBeNull(),
);

test.each(['', '{', '{"a":1}', '[1]'])('what was begun as %s is nothing', (text) =>
  expect(readBegun(text).size).toBe(0),
);

test('what was begun is read line by line, the torn last one passed over', () => {
  const text = printBegun([file('a.png', 'A'), file('b.png', 'B')]);
  expect([...readBegun(text).keys()]).toEqual(['a.png', 'b.png']);
  expect([...readBegun(text.slice(0, -9)).keys()]).toEqual(['a.png']);
});

test.each(['', '/etc', 'a//b', '../a', 'a/..', 'a/./b', 'a\\b', 'a\0b'])('%s is no path within a folder', (path) =>
  expect(pathWithin.safeParse(path).success).toBe(false),
);
