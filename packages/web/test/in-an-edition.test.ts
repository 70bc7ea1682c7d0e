import './browser-storage';
import 'fake-indexeddb/auto';

import {
  acts,
  boundsOfLayers,
  type Edition,
  editionRecord,
  type LayerOverride,
  layerRecord,
  newId,
  ROOT,
} from '@tolvik/core';
import { act, isShownHere, selectionFrame } from '../src/bench/act';
import { useBench } from '../src/bench/bench-state';
import { layerFrame, layersAt, selectedLayerAt } from '../src/bench/plane/hit';
import { artworkAt, artworkOf, shownNow } from '../src/bench/shown-artwork';
import type { Session } from '../src/project/session/session';
import { sessionWith } from './opened';

const CARD =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40" viewBox="0 0 80 40"><g id="card"><rect id="ground" width="80" height="40" fill="#dfe8e2"/><rect id="spring" x="4" y="4" width="20" height="8"/><rect id="summer" x="4" y="4" width="20" height="8" display="none"/><circle id="sun" cx="60" cy="12" r="5"/></g></svg>';

let session: Session;
let edition: Edition;
const id = (name: string) => session.doc.list('layer').find((layer) => layer.name === name)?.id ?? '';
const held = (name: string): LayerOverride => session.doc.find('edition', edition.id)?.overrides[id(name)] ?? {};
const camera = { x: 0, y: 0, scale: 8 };
const [origin] = [{ x: 0, y: 0 }];
/** The name of what is drawn in front at a point of the card. */
const nameAt = (x: number, y: number) =>
  layersAt(artworkAt(session, origin.x + x, origin.y + y), camera, origin.x + x, origin.y + y).at(-1)?.name;

/** Picks the edition, as a click in the strip does; the Bench then shows it. */
const showEdition = () => {
  session.select([edition.id]);
  expect(shownNow(session)?.edition.id).toBe(edition.id);
};

beforeEach(() => {
  session = sessionWith({ card: CARD });
  const { doc } = session;
  const [board] = doc.list('artboard');
  Object.assign(origin, { x: board.x, y: board.y });
  edition = editionRecord.parse({
    id: newId(),
    kind: 'edition',
    artboardId: board.id,
    order: 'a0',
    name: 'summer',
    specIds: [],
    overrides: {
      [id('spring')]: { shown: false },
      [id('summer')]: { shown: true },
      [id('sun')]: { offset: { x: -30, y: 10 } },
    },
  });
  doc.apply({ puts: [edition], removes: [] });
  useBench.getState().set({ carry: true, changes: 'edition', reference: 'nw' });
});

test('what an edition shows is what a click finds, where it shows it; in the base it is what the base shows', () => {
  expect([nameAt(6, 6), nameAt(60, 12), nameAt(30, 22)]).toEqual(['spring', 'sun', 'ground']);
  showEdition();
  expect([nameAt(6, 6), nameAt(60, 12), nameAt(30, 22)]).toEqual(['summer', 'ground', 'sun']);
  // While its layers are worked on, it is still shown.
  session.select([id('sun')]);
  expect(nameAt(30, 22)).toBe('sun');
  expect(
    selectedLayerAt({ session } as Parameters<typeof selectedLayerAt>[0], origin.x + 30, origin.y + 22)?.name,
  ).toBe('sun');
  session.select([]);
  expect(shownNow(session)).toBeNull();
  expect(nameAt(60, 12)).toBe('sun');
});

test('the frame and the numbers of a layer are those of where it is shown', () => {
  showEdition();
  session.select([id('sun')]);
  expect(selectionFrame(session)).toMatchObject({ x: origin.x + 25, y: origin.y + 17 });
  expect(layerFrame(artworkOf(session, session.selection), session.selection)?.minX).toBe(origin.x + 25);
});

test('a layer sent to a place by number or by an edge goes there in the edition alone', () => {
  const base = session.doc.find('layer', id('sun'));
  showEdition();
  session.select([id('sun')]);
  act(session, acts.move, { dx: 5, dy: 0 });
  expect(held('sun').offset).toEqual({ x: -25, y: 10 });
  act(session, acts.align, { edge: 'right', to: 'artboard' });
  expect(selectionFrame(session)?.box.maxX).toBeCloseTo(origin.x + 80, 6);
  expect(session.doc.find('layer', id('sun'))).toBe(base);
  expect(session.undoLabel).toBe('align sun: right');
  session.undo();
  session.undo();
  expect(held('sun').offset).toEqual({ x: -30, y: 10 });
});

test('the same for the base moves the base, and the edition with it', () => {
  showEdition();
  session.select([id('sun')]);
  useBench.getState().set({ changes: 'base' });
  const [before] = [boundsOfLayers(session.doc, [id('sun')])];
  act(session, acts.align, { edge: 'left', to: 'artboard' });
  expect(held('sun').offset).toEqual({ x: -30, y: 10 });
  expect(selectionFrame(session)?.box.minX).toBeCloseTo(origin.x, 6);
  expect(boundsOfLayers(session.doc, [id('sun')])?.minX).toBeCloseTo((before?.minX ?? 0) - 25, 6);
  act(session, acts.move, { dx: 4, dy: 0 });
  expect(selectionFrame(session)?.box.minX).toBeCloseTo(origin.x + 4, 6);
});

test('a turn is about where one sees it, and is the base’s, since an edition holds none', () => {
  showEdition();
  session.select([id('summer')]);
  act(session, acts.move, { dx: 10, dy: 12 });
  useBench.getState().set({ reference: 'c' });
  const before = selectionFrame(session);
  act(session, acts.turn, { degrees: 90, around: useBench.getState().reference });
  const after = selectionFrame(session);
  expect([after?.x, after?.y]).toEqual([expect.closeTo(before?.x ?? 0, 6), expect.closeTo(before?.y ?? 0, 6)]);
  expect(held('summer').offset).toEqual({ x: 10, y: 12 });
});

test('a layer that is for the Bench only has a frame and can be aligned, though no file has it', () => {
  const sun = session.doc.find('layer', id('sun'));
  if (!sun) throw new Error('no sun');
  session.doc.apply({ puts: [{ ...sun, benchOnly: true }], removes: [] });
  session.select([id('sun')]);
  expect(selectionFrame(session)?.box.maxX).toBe(origin.x + 65);
  expect(
    selectedLayerAt({ session } as Parameters<typeof selectedLayerAt>[0], origin.x + 60, origin.y + 12)?.name,
  ).toBe('sun');
  act(session, acts.align, { edge: 'left', to: 'artboard' });
  expect(selectionFrame(session)?.box.minX).toBe(origin.x);
});

test('what is shown or hidden is so in the edition alone, until the switch says the base', () => {
  const sun = session.doc.list('layer').filter((layer) => layer.name === 'sun');
  showEdition();
  session.select([id('sun')]);
  act(session, acts.show, { shown: false }, [sun[0].id]);
  expect([held('sun').shown, sun[0].shown, isShownHere(session, sun[0])]).toEqual([false, true, false]);
  expect(session.undoLabel).toBe('hide in summer');
  act(session, acts.show, { shown: true }, [sun[0].id]);
  expect(held('sun').shown).toBeUndefined();
  useBench.getState().set({ changes: 'base' });
  act(session, acts.show, { shown: false }, [sun[0].id]);
  expect([held('sun').shown, session.doc.find('layer', id('sun'))?.shown, session.undoLabel]).toEqual([
    undefined,
    false,
    'hide sun',
  ]);
  session.select([]);
  expect(isShownHere(session, sun[0])).toBe(true);
});

test('what is not on the artboard of the edition is the base’s, whatever the switch says', () => {
  const far = layerRecord.parse({
    id: newId(),
    kind: 'layer',
    parentId: ROOT,
    order: 'bzz',
    name: 'far',
    tag: 'rect',
    attrs: { x: '500', y: '500', width: '9', height: '9' },
  });
  session.doc.apply({ puts: [far], removes: [] });
  showEdition();
  session.select([far.id]);
  act(session, acts.move, { dx: 3, dy: 0 });
  expect(boundsOfLayers(session.doc, [far.id])?.minX).toBe(503);
  act(session, acts.show, { shown: false }, [far.id]);
  expect(session.doc.find('layer', far.id)?.shown).toBe(false);
  expect(session.doc.find('edition', edition.id)).toBe(edition);
});
