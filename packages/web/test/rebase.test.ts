import { type Change, layerRecord, MAX_RECORDS_PER_EDIT, type ProjectRecord } from '@tolvik/core';
import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { inParts } from '../src/project/session/in-parts';
import type { Pending } from '../src/project/session/pending-edits';
import { rebase } from '../src/project/session/rebase';

type Fields = Record<string, string | number>;
const record = (attrs: Fields) => layerOf('one', 'root', attrs);
const layerOf = (id: string, parentId: string, attrs: Fields = {}): ProjectRecord =>
  layerRecord.parse({
    id,
    kind: 'layer',
    parentId,
    order: 'a0',
    tag: 'rect',
    attrs: Object.fromEntries(Object.entries(attrs).map(([name, value]) => [name, String(value)])),
  });
const attrsOf = (of: ProjectRecord | null | undefined) => (of?.kind === 'layer' ? of.attrs : undefined);

/** One after the other, each setting some attributes of what the one before left. */
function editsOn(base: Fields, sets: readonly Fields[]): Pending[] {
  let before = base;
  return sets.map((set, i) => {
    const after = { ...before, ...set };
    const edit = { id: `e${i}`, baseVersion: 1, label: '', puts: [record(after)], removes: [] };
    const pending = { edit, before: [record(before)] };
    before = after;
    return pending as Pending;
  });
}

const names = ['x', 'y', 'width', 'height'] as const;
const fields = fc.dictionary(fc.constantFrom(...names), fc.nat({ max: 9 }), { maxKeys: 3 });

test('edits on top of what others did, again and again: a field that an edit sets is as the edit has it, any other as theirs', () => {
  fc.assert(
    fc.property(fields, fields, fc.array(fields, { minLength: 1, maxLength: 4 }), (base, mine, theirs) => {
      // An edit for each field, one after the other.
      const edits = editsOn(
        base,
        Object.entries(mine).map(([name, value]) => ({ [name]: value })),
      );
      // Setting a field to what it is changes nothing, and where others do the same it is theirs as well.
      const changed = new Map(Object.entries(mine).filter(([name, value]) => base[name] !== value));
      let server = base;
      for (const set of theirs) {
        server = { ...server, ...set };
        const { now } = rebase(edits, () => record(server));
        const wanted = { ...server, ...Object.fromEntries(changed) };
        if (edits.length > 0)
          expect(attrsOf(now.get('one'))).toEqual(
            Object.fromEntries(Object.entries(wanted).map(([name, value]) => [name, String(value)])),
          );
        for (const [name, value] of changed) if (server[name] === value) changed.delete(name);
      }
    }),
    runs(500),
  );
});

test('a record that others removed comes back as the edit has it; one that the edit removes stays away', () => {
  const edits = editsOn({ x: 1 }, [{ x: 2 }]);
  expect(attrsOf(rebase(edits, () => undefined).now.get('one'))).toEqual({ x: '2' });
  edits.push({ edit: { id: 'e', baseVersion: 1, label: '', puts: [], removes: ['one'] }, before: [] } as Pending);
  expect(rebase(edits, () => record({ x: 5 })).now.get('one')).toBeNull();
});

test('a change of very many records is several edits, none of which leaves a layer without its parent', () => {
  const many = 2 * MAX_RECORDS_PER_EDIT + 10;
  // A comb: groups in groups, each with leaves; in an order that helps nobody.
  const all = Array.from({ length: many }, (_, i) =>
    layerOf(`l${i}`, i < 100 ? (i === 0 ? 'root' : `l${i - 1}`) : `l${i % 100}`),
  );
  const byId = new Map(all.map((layer) => [layer.id, layer]));
  const shuffled = [...all].sort((a, b) => (a.id.length - b.id.length) * -1 || (a.id < b.id ? 1 : -1));
  const there = new Set<string>(['root']);
  const carryOut = (parts: Change[]) => {
    for (const { puts, removes } of parts) {
      expect(puts.length).toBeLessThanOrEqual(MAX_RECORDS_PER_EDIT);
      expect(removes.length).toBeLessThanOrEqual(MAX_RECORDS_PER_EDIT);
      for (const { id } of puts) there.add(id);
      for (const id of removes) there.delete(id);
      for (const id of there) {
        const layer = byId.get(id);
        if (layer?.kind === 'layer' && !there.has(layer.parentId)) throw new Error(`${id} lost its parent`);
      }
    }
  };
  carryOut(inParts({ label: 'come', puts: shuffled, removes: [] }, (id) => byId.get(id)));
  expect(there.size).toBe(many + 1);
  carryOut(inParts({ label: 'go', puts: [], removes: shuffled.map(({ id }) => id) }, (id) => byId.get(id)));
  expect(there.size).toBe(1);
});

test('a record that an edit removes and puts again is there, whatever others did to it', () => {
  const edit = { id: 'e', baseVersion: 1, label: '', puts: [record({ x: 1 })], removes: ['one', 'two'] };
  const pending = { edit, before: [record({ x: 0 })] } as Pending;
  const { now } = rebase([pending], (id) => (id === 'one' ? record({ x: 0, y: 5 }) : layerOf('two', 'root')));
  expect(attrsOf(now.get('one'))).toEqual({ x: '1', y: '5' });
  expect(now.get('two')).toBeNull();
});
