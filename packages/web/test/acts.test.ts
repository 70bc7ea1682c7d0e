import './browser-storage';
import 'fake-indexeddb/auto';

import {
  artboardRecord,
  editionRecord,
  layerBounds,
  newId,
  type ProjectRecord,
  Refusal,
  sliceRecord,
} from '@tolvik/core';
import {
  alignSelected,
  convertSelected,
  distributeSelected,
  duplicateSelected,
  everythingSliced,
  fitSelected,
  groupSelected,
  mirrorSelected,
  nameOfSelection,
  numberSelected,
  pageOfArtboards,
  pickAlike,
  pickSiblings,
  reorderSelected,
  scaleSelected,
  selectedToPixelGrid,
  selectionFrame,
  sliceEach,
  turnSelected,
  ungroupSelected,
} from '../src/bench/acts';
import { useBench } from '../src/bench/bench-state';
import { drawPiece, moveSelected, setRect } from '../src/bench/plane/acts';
import { removePieces } from '../src/bench/remove';
import { planOf } from '../src/project/context';
import type { Session } from '../src/project/session';
import { addOutput, duplicateOutput, removeOutput, shiftOutput } from '../src/proof/outputs';
import { switchCells, switchPieces } from '../src/proof/switch';
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
function undone(act: () => void): void {
  const before = all();
  act();
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
  test.each<[string, string[], () => void]>([
    ['group', ['hull', 'sail'], () => groupSelected(session)],
    ['ungroup', ['vessel'], () => ungroupSelected(session)],
    ['to the front', ['hull'], () => reorderSelected(session, 'front')],
    ['duplicate', ['hull'], () => duplicateSelected(session)],
    ['align', ['hull', 'flag'], () => alignSelected(session, 'left', 'selection')],
    ['align to the artboard', ['hull'], () => alignSelected(session, 'right', 'artboard')],
    ['distribute', ['hull', 'sail', 'flag'], () => distributeSelected(session, 'across')],
    ['to the pixel grid', ['flag'], () => selectedToPixelGrid(session)],
    ['mirror', ['sail'], () => mirrorSelected(session, 'horizontally')],
    ['turn', ['hull'], () => turnSelected(session, 90)],
    ['scale', ['hull'], () => scaleSelected(session, 2)],
    ['slices', ['hull', 'sail'], () => sliceEach(session)],
    ['move', ['hull'], () => moveSelected(session, 3, -2)],
    ['delete', ['boat'], () => void removePieces(session, [...session.selection])],
  ])('%s', (_, names, act) => {
    pick(...names);
    undone(act);
  });

  test('a group holds what was picked, and gives it back', () => {
    pick('hull', 'flag');
    groupSelected(session);
    const [groupId] = session.selection;
    expect(session.doc.children(groupId).map((each) => each.name)).toEqual(['hull', 'flag']);
    ungroupSelected(session);
    expect([...session.selection].map((id) => session.doc.find('layer', id)?.name)).toEqual(['hull', 'flag']);
  });

  test('a turn about the chosen reference point leaves it where it is', () => {
    useBench.getState().set({ reference: 'se' });
    pick('hull');
    const before = selectionFrame(session);
    turnSelected(session, 180);
    const after = selectionFrame(session);
    expect(after?.box.minX).toBeCloseTo(before?.x ?? 0, 6);
    expect(after?.box.minY).toBeCloseTo(before?.y ?? 0, 6);
    turnSelected(session, 360);
    expect(session.undoLabel).toBe('turn hull by 180°');
  });

  test('picking more: beside it, and what looks alike', () => {
    pick('hull');
    pickSiblings(session);
    expect(session.selection.size).toBe(3);
    expect(nameOfSelection(session)).toBe('3 layers');
    pick('sail');
    pickAlike(session, 'fill');
    expect([...session.selection].map((id) => session.doc.find('layer', id)?.name).sort()).toEqual(['flag', 'sail']);
  });
});

describe('acts on pieces', () => {
  test.each<[string, string[], () => void]>([
    ['duplicate', ['boat'], () => duplicateSelected(session)],
    ['trim', ['boat'], () => void fitSelected(session, 'trim', 1)],
    ['centre', ['anchor'], () => void fitSelected(session, 'centre')],
    ['one page', ['anchor', 'boat'], () => pageOfArtboards(session)],
    ['everything', [], () => everythingSliced(session)],
    ['convert', ['crate'], () => convertSelected(session)],
    ['move with artwork', ['boat'], () => moveSelected(session, 5, 5)],
    [
      'resize',
      ['boat'],
      () => setRect(session, board(session, 'boat').id, { x: 0, y: 0, width: 60, height: 50 }, 'resize'),
    ],
    ['draw', [], () => drawPiece(session, 'artboard', { x: 500, y: 500, width: 40, height: 30 })],
    ['delete with artwork', ['boat'], () => void removePieces(session, [...session.selection])],
  ])('%s', (_, names, act) => {
    if (names.length > 0) pick(...names);
    undone(act);
  });

  test('whole pixels says when there is nothing to do', () => {
    pick('boat');
    expect(fitSelected(session, 'whole')).toBe('All are on whole pixels.');
    session.commit({ label: 'off', puts: [{ ...board(session, 'boat'), x: 0.4 }], removes: [] });
    expect(fitSelected(session, 'whole')).toBeNull();
    expect(board(session, 'boat').x % 1).toBe(0);
  });

  test('numbered by name, whatever their order was', () => {
    pick('crate', 'anchor', 'boat');
    session.commit({ label: 'mix up', puts: [{ ...board(session, 'crate'), order: 'Zz' }], removes: [] });
    numberSelected(session, 'name');
    expect(planOf(session).pieces.map((piece) => piece.name)).toEqual(['anchor', 'boat', 'crate']);
  });

  test('moved without its artwork, an artboard leaves it where it was', () => {
    const before = placeOf('hull');
    useBench.getState().set({ carry: false });
    pick('boat');
    moveSelected(session, 7, 0);
    expect(placeOf('hull')).toEqual(before);
    session.undo();
    useBench.getState().set({ carry: true });
    moveSelected(session, 7, 0);
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
    sliceEach(session);
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
    expect(() => convertSelected(session)).toThrow(Refusal);
    pick('boat');
    expect(() => convertSelected(session)).toThrow('followed by variants');
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
    moveSelected(session, 1, 1);
    pick('hull');
    moveSelected(session, 4, 0);
    moveSelected(session, 2, -3);
    expect(placeOf('hull')).toEqual(before);
    expect(edition().overrides[layer(session, 'hull').id]).toEqual({ offset: { x: 6, y: -3 } });
    moveSelected(session, -6, 3);
    expect(edition().overrides).toEqual({});
  });

  test('with the switch on the base, the base is moved', () => {
    useBench.getState().set({ changes: 'base' });
    const before = placeOf('hull');
    pick('hull');
    moveSelected(session, 4, 0);
    expect(placeOf('hull').x).toBe(before.x + 4);
    expect(edition().overrides).toEqual({});
  });
});

describe('outputs and cells', () => {
  const outputs = () => planOf(session).outputs;
  const cells = () => planOf(session).files.length;

  test('a new output is one step larger than the largest PNG; duplicated, moved, removed', () => {
    addOutput(session);
    const added = outputs().at(-1);
    expect(added).toMatchObject({ size: { kind: 'factor', factor: 3 }, suffix: '@3x', settings: { format: 'png' } });
    if (!added) return;
    duplicateOutput(session, added, { suffix: '-card' });
    expect(outputs().at(-1)?.suffix).toBe('-card');
    shiftOutput(session, outputs().at(-1) as typeof added, -1);
    expect(outputs().at(-1)?.id).toBe(added.id);
    shiftOutput(session, added, 1);
    expect(outputs().at(-1)?.id).toBe(added.id);
    removeOutput(session, added);
    expect(outputs().some((output) => output.id === added.id)).toBe(false);
  });

  test('a project without a spec gets one that all pieces follow', () => {
    session.commit({
      label: 'no specs',
      puts: session.doc.list('artboard').map((each) => ({ ...each, specIds: [] })),
      removes: [...session.doc.list('spec'), ...session.doc.list('output')].map((each) => each.id),
    });
    expect(cells()).toBe(0);
    addOutput(session);
    expect(cells()).toBe(3);
    expect(session.doc.settings.defaultSpecId).toBe(session.doc.list('spec')[0].id);
  });

  test('cells switched off and on; a piece that was off comes on with only the cell that was asked for', () => {
    const { pieces } = planOf(session);
    const [one] = pieces;
    const before = cells();
    switchCells(session, pieces, [{ pieceId: one.id, outputId: outputs()[0].id }], false);
    expect(cells()).toBe(before - 1);
    switchPieces(session, planOf(session).pieces, false);
    expect(cells()).toBe(0);
    switchCells(session, planOf(session).pieces, [{ pieceId: one.id, outputId: outputs()[1].id }], true);
    expect(planOf(session).files.map((file) => [file.pieceId, file.outputId])).toEqual([[one.id, outputs()[1].id]]);
    for (let i = 0; i < 3; i++) session.undo();
    expect(cells()).toBe(before);
  });

  test('a slice drawn beside others has a name of its own and the starting spec', () => {
    drawPiece(session, 'slice', { x: 0, y: 0, width: 10, height: 10 });
    drawPiece(session, 'slice', { x: 20, y: 0, width: 10, height: 10 });
    const slices = session.doc.list('slice');
    expect(slices.map((slice) => slice.name)).toEqual(['slice 1', 'slice 2']);
    expect(slices[0].specIds).toEqual([session.doc.settings.defaultSpecId ?? session.doc.list('spec')[0].id]);
    expect(sliceRecord.safeParse(slices[1]).success).toBe(true);
    expect(useBench.getState().renaming).toBe(slices[1].id);
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
