import './browser-storage';
import 'fake-indexeddb/auto';

import {
  acts,
  artboardRecord,
  editionRecord,
  layerBounds,
  layersAlike,
  newId,
  type ProjectRecord,
  siblingsOf,
  sliceRecord,
} from '@tolvik/core';
import { act, nameOfSelection, selectionFrame } from '../src/bench/act';
import { useBench } from '../src/bench/bench-state';
import { removePieces } from '../src/bench/remove';
import { planOf } from '../src/project/session/context';
import type { Session } from '../src/project/session/session';
import { sessionWith } from './opened';

const icon = (inner = '<path d="M4 4h16v16H4z"/>') =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24">${inner}</svg>`;
const BOAT = icon(
  '<g id="vessel"><rect id="hull" x="4" y="14" width="16" height="4" fill="#12343b"/><path id="sail" d="M12 3v9h8z" fill="#0c6a53"/><rect id="flag" x="9.3" y="2" width="2" height="2" fill="#0c6a53"/></g>',
);

const FILES = { anchor: icon('<rect id="stock" x="6.25" y="5" width="9" height="3"/>'), boat: BOAT, crate: icon() };

let session: Session;
beforeEach(() => {
  session = sessionWith(FILES);
  useBench.getState().set({ carry: true, changes: 'edition', reference: 'nw', scaleStrokes: true, tool: 'select' });
});

const named = <T extends { name: string }>(list: Iterable<T>, name: string): T => {
  for (const record of list) if (record.name === name) return record;
  throw new Error(`no ${name}`);
};
const board = (of: Session, name: string) => named(of.doc.list('artboard'), name);
const layer = (of: Session, name: string) => named(of.doc.each('layer'), name);
const all = (): ProjectRecord[] => [...session.doc.all()].sort((a, b) => (a.id < b.id ? -1 : 1));
const pick = (...names: string[]) =>
  session.select(
    names.map((name) => session.doc.list('artboard').find((each) => each.name === name)?.id ?? layer(session, name).id),
  );
/** Does something and takes it back: all is as it was, and the step had a name. */
function undone(work: () => unknown): void {
  const before = all();
  work();
  expect(all()).not.toEqual(before);
  expect(session.undoLabel).toBeTruthy();
  session.undo();
  expect(all()).toEqual(before);
}
/** Where a layer is on the plane. */
const placeOf = (name: string) => {
  const box = layerBounds(session.doc, layer(session, name).id);
  if (!box) throw new Error(`${name} draws nothing`);
  return { x: box.minX, y: box.minY };
};

describe('acts on layers are one step each', () => {
  test.each<[string, string[], () => unknown]>([
    ['group', ['hull', 'sail'], () => act(session, acts.group, {})],
    ['ungroup', ['vessel'], () => act(session, acts.ungroup, {})],
    ['to the front', ['hull'], () => act(session, acts.reorder, { to: 'front' })],
    ['duplicate', ['hull'], () => act(session, acts.duplicate, {})],
    ['align', ['hull', 'flag'], () => act(session, acts.align, { edge: 'left' })],
    ['align to the artboard', ['hull'], () => act(session, acts.align, { edge: 'right', to: 'artboard' })],
    ['distribute', ['hull', 'sail', 'flag'], () => act(session, acts.distribute, { axis: 'across' })],
    ['to the pixel grid', ['flag'], () => act(session, acts.toPixelGrid, {})],
    ['mirror', ['sail'], () => act(session, acts.mirror, { across: 'horizontally' })],
    ['turn', ['hull'], () => act(session, acts.turn, { degrees: 90, around: useBench.getState().reference })],
    ['scale', ['hull'], () => act(session, acts.resize, { widthPx: 32 })],
    ['slices', ['hull', 'sail'], () => act(session, acts.sliceLayers, {})],
    ['move', ['hull'], () => act(session, acts.move, { dx: 3, dy: -2 })],
    ['delete', ['boat'], () => void removePieces(session, [...session.selection])],
  ])('%s', (_, names, work) => {
    pick(...names);
    undone(work);
  });

  test('a group holds what was picked, and gives it back', () => {
    pick('hull', 'flag');
    act(session, acts.group, {});
    const [groupId] = session.selection;
    expect(session.doc.children(groupId).map((each) => each.name)).toEqual(['hull', 'flag']);
    act(session, acts.ungroup, {});
    expect([...session.selection].map((id) => session.doc.find('layer', id)?.name)).toEqual(['hull', 'flag']);
  });

  test('a turn about the chosen reference point leaves it where it is', () => {
    useBench.getState().set({ reference: 'se' });
    pick('hull');
    const before = selectionFrame(session);
    act(session, acts.turn, { degrees: 180, around: useBench.getState().reference });
    const after = selectionFrame(session);
    expect(after?.box.minX).toBeCloseTo(before?.x ?? 0, 6);
    expect(after?.box.minY).toBeCloseTo(before?.y ?? 0, 6);
    act(session, acts.turn, { degrees: 360, around: useBench.getState().reference });
    expect(session.undoLabel).toBe('turn hull by 180°');
  });

  test('picking more: beside it, and what looks alike', () => {
    pick('hull');
    session.select(siblingsOf(session.doc, session.selection));
    expect(session.selection.size).toBe(3);
    expect(nameOfSelection(session)).toBe('3 layers');
    pick('sail');
    session.select(layersAlike(session.doc, session.selection, 'fill'));
    expect([...session.selection].map((id) => session.doc.find('layer', id)?.name).sort()).toEqual(['flag', 'sail']);
  });
});

describe('acts on pieces', () => {
  test.each<[string, string[], () => unknown]>([
    ['duplicate', ['boat'], () => act(session, acts.duplicate, {})],
    ['trim', ['boat'], () => act(session, acts.trimToArtwork, { marginPx: 1 })],
    ['centre', ['anchor'], () => act(session, acts.centreArtwork, {})],
    ['one page', ['anchor', 'boat'], () => act(session, acts.sliceArtboards, {})],
    ['everything', [], () => act(session, acts.sliceEverything, {})],
    ['convert', ['crate'], () => act(session, acts.convert, {})],
    ['move with artwork', ['boat'], () => act(session, acts.move, { dx: 5, dy: 5 })],
    ['resize', ['boat'], () => act(session, acts.setRect, { x: 0, y: 0, width: 60, height: 50 })],
    ['draw', [], () => act(session, acts.drawPiece, { what: 'artboard', x: 500, y: 500, width: 40, height: 30 })],
    ['delete with artwork', ['boat'], () => void removePieces(session, [...session.selection])],
  ])('%s', (_, names, work) => {
    if (names.length > 0) pick(...names);
    undone(work);
  });

  test('whole pixels says when there is nothing to do', () => {
    pick('boat');
    const said: unknown[] = [];
    session.onNotice = (...notice) => said.push(notice);
    expect(act(session, acts.wholePixels, {})).toBe(false);
    expect(said).toEqual([['All are on whole pixels.', false]]);
    session.commit({ label: 'off', puts: [{ ...board(session, 'boat'), x: 0.4 }], removes: [] });
    expect(act(session, acts.wholePixels, {})).toBe(true);
    expect(board(session, 'boat').x % 1).toBe(0);
  });

  test('numbered by name, whatever their order was', () => {
    pick('crate', 'anchor', 'boat');
    session.commit({ label: 'mix up', puts: [{ ...board(session, 'crate'), order: 'Zz' }], removes: [] });
    act(session, acts.number, { by: 'name' });
    expect(planOf(session).pieces.map((piece) => piece.name)).toEqual(['anchor', 'boat', 'crate']);
  });

  test('moved without its artwork, an artboard leaves it where it was', () => {
    const before = placeOf('hull');
    useBench.getState().set({ carry: false });
    pick('boat');
    act(session, acts.move, { dx: 7, dy: 0 });
    expect(placeOf('hull')).toEqual(before);
    session.undo();
    useBench.getState().set({ carry: true });
    act(session, acts.move, { dx: 7, dy: 0 });
    expect(placeOf('hull').x).toBe(before.x + 7);
  });

  test('deleted without its artwork, only the artboard and its editions go', () => {
    const boat = board(session, 'boat');
    session.commit({
      label: 'edition',
      puts: [editionRecord.parse({ id: newId(), kind: 'edition', artboardId: boat.id, order: 'a0', name: 'night' })],
      removes: [],
    });
    const layers = session.doc.list('layer').length;
    removePieces(session, [boat.id], false);
    expect(session.doc.list('edition')).toEqual([]);
    expect(session.doc.list('layer')).toHaveLength(layers);
  });

  test('a slice whose layer goes is answered with the region it had', () => {
    pick('hull');
    act(session, acts.sliceLayers, {});
    const [slice] = session.doc.list('slice');
    const [loose] = removePieces(session, [layer(session, 'hull').id]);
    expect(loose).toMatchObject({ id: slice.id, source: { kind: 'region', width: 16, height: 4 } });
    expect(planOf(session).pieces.find((piece) => piece.id === slice.id)?.problem).toBe(
      'the layer it follows was deleted',
    );
  });

  test('what cannot be a slice is refused with a reason', () => {
    const boat = board(session, 'boat');
    session.commit({
      label: 'variant',
      puts: [
        artboardRecord.parse({
          ...boat,
          id: newId(),
          order: 'b00',
          name: 'white',
          y: 300,
          follows: { artboardId: boat.id, rule: { kind: 'white' } },
        }),
      ],
      removes: [],
    });
    pick('white');
    const said: unknown[] = [];
    session.onNotice = (...notice) => said.push(notice);
    act(session, acts.convert, {});
    pick('boat');
    act(session, acts.convert, {});
    expect(said).toEqual([
      ['white follows another artboard, so there is no artwork of its own to cut.', true],
      ['boat is followed by variants.', true],
    ]);
  });
});

describe('while an edition is shown', () => {
  const edition = () => session.doc.list('edition')[0];
  beforeEach(() => {
    const boat = board(session, 'boat');
    session.commit({
      label: 'edition',
      puts: [
        editionRecord.parse({
          id: newId(),
          kind: 'edition',
          artboardId: boat.id,
          order: 'a0',
          name: 'night',
          specIds: boat.specIds,
        }),
      ],
      removes: [],
    });
    session.select([edition().id]);
  });

  test('moving a layer changes only the edition, and adds up', () => {
    const before = placeOf('hull');
    act(session, acts.move, { dx: 1, dy: 1 });
    pick('hull');
    act(session, acts.move, { dx: 4, dy: 0 });
    act(session, acts.move, { dx: 2, dy: -3 });
    expect(placeOf('hull')).toEqual(before);
    expect(edition().overrides[layer(session, 'hull').id]).toEqual({ offset: { x: 6, y: -3 } });
    act(session, acts.move, { dx: -6, dy: 3 });
    expect(edition().overrides).toEqual({});
  });

  test('with the switch on the base, the base is moved', () => {
    useBench.getState().set({ changes: 'base' });
    const before = placeOf('hull');
    pick('hull');
    act(session, acts.move, { dx: 4, dy: 0 });
    expect(placeOf('hull').x).toBe(before.x + 4);
    expect(edition().overrides).toEqual({});
  });
});

describe('outputs and cells', () => {
  const outputs = () => planOf(session).outputs;
  const cells = () => planOf(session).files.length;

  test('a new output is one step larger than the largest PNG; duplicated, moved, removed', () => {
    act(session, acts.addOutput, {});
    const added = outputs().at(-1);
    expect(added).toMatchObject({ size: { kind: 'factor', factor: 3 }, suffix: '@3x', settings: { format: 'png' } });
    if (!added) return;
    act(session, acts.duplicateOutput, { outputId: added.id, suffix: '-card' });
    expect(outputs().at(-1)?.suffix).toBe('-card');
    act(session, acts.shiftOutput, { outputId: outputs().at(-1)?.id ?? '', to: 'left' });
    expect(outputs().at(-1)?.id).toBe(added.id);
    act(session, acts.shiftOutput, { outputId: added.id, to: 'right' });
    expect(outputs().at(-1)?.id).toBe(added.id);
    act(session, acts.removeOutput, { outputId: added.id });
    expect(outputs().some((output) => output.id === added.id)).toBe(false);
  });

  test('a project without a spec gets one that all pieces follow', () => {
    session.commit({
      label: 'no specs',
      puts: session.doc.list('artboard').map((each) => ({ ...each, specIds: [] })),
      removes: [...session.doc.list('spec'), ...session.doc.list('output')].map((each) => each.id),
    });
    expect(cells()).toBe(0);
    act(session, acts.addOutput, {});
    expect(cells()).toBe(3);
    expect(session.doc.settings.defaultSpecId).toBe(session.doc.list('spec')[0].id);
  });

  test('cells switched off and on; a piece that was off comes on with only the cell that was asked for', () => {
    const { pieces } = planOf(session);
    const [one] = pieces;
    const before = cells();
    act(session, acts.switchFiles, { on: false, outputIds: [outputs()[0].id] }, [one.id]);
    expect(cells()).toBe(before - 1);
    act(
      session,
      acts.switchPieces,
      { on: false },
      pieces.map(({ id }) => id),
    );
    expect(cells()).toBe(0);
    act(session, acts.switchFiles, { on: true, outputIds: [outputs()[1].id] }, [one.id]);
    expect(planOf(session).files.map((file) => [file.pieceId, file.outputId])).toEqual([[one.id, outputs()[1].id]]);
    for (let i = 0; i < 3; i++) session.undo();
    expect(cells()).toBe(before);
  });

  test('a slice drawn beside others has a name of its own and the starting spec', () => {
    act(session, acts.drawPiece, { what: 'slice', x: 0, y: 0, width: 10, height: 10 });
    act(session, acts.drawPiece, { what: 'slice', x: 20, y: 0, width: 10, height: 10 });
    const slices = session.doc.list('slice');
    expect(slices.map((slice) => slice.name)).toEqual(['slice 1', 'slice 2']);
    expect(slices[0].specIds).toEqual([session.doc.settings.defaultSpecId ?? session.doc.list('spec')[0].id]);
    expect(sliceRecord.safeParse(slices[1]).success).toBe(true);
    expect([...session.selection]).toEqual([slices[1].id]);
  });
});

test('what follows a resized artboard is resized in the same step, and back', () => {
  const anchor = board(session, 'anchor');
  session.commit({
    label: 'variant',
    puts: [
      {
        ...anchor,
        id: 'variant',
        order: 'b00',
        name: 'variant',
        y: 99,
        follows: { artboardId: anchor.id, rule: { kind: 'white' } },
      },
    ],
    removes: [],
  });
  session.commit({ label: 'resize', puts: [{ ...anchor, width: 48, height: 40 }], removes: [] });
  expect(board(session, 'variant')).toMatchObject({ width: 48, height: 40 });
  session.undo();
  expect(board(session, 'variant')).toMatchObject({ width: 24, height: 24 });
  expect(session.undoLabel).toBe('variant');
});
