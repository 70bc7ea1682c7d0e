import fc from 'fast-check';
import {
  ACTS,
  type Artboard,
  anyRecord,
  type ProjectDocument,
  performRequest,
  Refusal,
  readProjectFile,
  writeProjectFile,
} from '../src';
import { snapshot } from './fixtures';
import { harbour, namedIn, SETTINGS } from './harbour';
import { runs } from './properties';

/** The harbour with artboards that lie over each other and share what lies in both. */
function crowded(): ProjectDocument {
  const doc = harbour();
  const [first] = doc.list('artboard');
  const over = (id: string, dx: number): Artboard => ({
    ...first,
    id,
    name: id,
    order: `${first.order}${dx}V`,
    x: first.x + dx,
  });
  doc.apply({ puts: [over('over', 2), over('beside', 5)], removes: [] });
  return doc;
}

/** Settings as they are meant, and with numbers that are far too large, tiny, or none. */
const EXTREME = [1e6, -1e6, 2_000_001, -5e7, 1e15, 1e308, 1e-300, -0, 0.1 + 0.2];
function stretched(settings: Record<string, unknown>, number: number | null): Record<string, unknown> {
  if (number === null) return settings;
  return Object.fromEntries(
    Object.entries(settings).map(([name, value]) => [
      name,
      typeof value === 'number'
        ? number
        : Array.isArray(value) && typeof value[0] === 'number'
          ? value.map(() => number)
          : value,
    ]),
  );
}

const step = fc.record({
  act: fc.constantFrom(...ACTS.map(({ name }) => name)),
  setting: fc.nat({ max: 20 }),
  number: fc.option(fc.constantFrom(...EXTREME), { nil: null, freq: 2 }),
  ids: fc.array(fc.nat({ max: 40 }), { maxLength: 5 }),
  carry: fc.boolean(),
  editionId: fc.constantFrom(undefined, 'night'),
});

test('after any acts the project file opens and gives the same records: what no file may hold is told by the act', () => {
  let done = 0;
  fc.assert(
    fc.property(fc.array(step, { minLength: 3, maxLength: 12 }), (steps) => {
      const doc = crowded();
      for (const { act, setting, number, ids, carry, editionId } of steps) {
        const all = [...doc.all()].filter(({ kind }) => ['layer', 'artboard', 'slice', 'edition'].includes(kind));
        let settings: readonly Record<string, unknown>[] = SETTINGS[act] ?? [{}];
        try {
          settings = SETTINGS[act] ?? namedIn(doc)[act] ?? [{}];
        } catch {
          // What it names is gone.
        }
        try {
          const { puts, removes } = performRequest(doc, act, {
            ids: [...new Set(ids.map((at) => all[at % all.length].id))],
            settings: stretched(settings[setting % settings.length], number),
            carry,
            editionId: editionId && doc.get(editionId) ? editionId : undefined,
          });
          expect(new Set(puts.map(({ id }) => id)).size).toBe(puts.length);
          for (const record of puts) expect(anyRecord.safeParse(record).error?.issues).toBeUndefined();
          doc.apply({ puts, removes });
          done++;
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
        }
      }
      const { records } = readProjectFile(
        writeProjectFile(doc, 'Harbour', () => undefined, 'harbour'),
        'harbour.svg',
      );
      // As JSON has them, which knows one zero.
      const asJson = (all: unknown) => JSON.parse(JSON.stringify(all));
      expect(asJson(Object.fromEntries(records.map((record) => [record.id, record])))).toEqual(asJson(snapshot(doc)));
    }),
    runs(120),
  );
  expect(done).toBeGreaterThan(100);
});
