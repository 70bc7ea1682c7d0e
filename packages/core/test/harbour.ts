import {
  acceptanceRecord,
  editionRecord,
  jobsOfRequest,
  lockupRule,
  type ProjectDocument,
  performRequest,
} from '../src';
import { layerNamed, project, svg } from './fixtures';

/** What an act of one layer needs outlined; nothing where that layer is refused. */
function jobsOfAlone(doc: ProjectDocument, name: string, id: string) {
  try {
    return jobsOfRequest(doc, name, { ids: [id] });
  } catch {
    return [];
  }
}

const BOAT =
  '<g id="vessel"><rect id="hull" x="4" y="14" width="16" height="4" fill="#12343b"/><path id="sail" d="M12 3v9h8z" fill="#0c6a53"/></g><rect id="flag" x="9.3" y="2" width="2" height="2" fill="#0c6a53"/>';

/** Artboards, artwork, slices of all kinds, a variant and an edition. */
export function harbour(): ProjectDocument {
  const { doc, artboard } = project({
    anchor: svg('<rect id="stock" x="6.25" y="5" width="9" height="3"/>'),
    boat: svg(BOAT),
    crate: svg(
      '<g id="top"><rect id="lid" x="4" y="4" width="16" height="2"/></g><g id="side"><path d="M4 9h16v9z" stroke="#12343b"/></g>',
    ),
  });
  const board = artboard('boat');
  doc.apply({
    puts: [
      {
        ...artboard('crate'),
        id: 'white',
        order: 'b00',
        name: 'white',
        y: 300.4,
        follows: { artboardId: artboard('anchor').id, rule: { kind: 'white' } },
      },
      editionRecord.parse({
        id: 'night',
        kind: 'edition',
        artboardId: board.id,
        order: 'a0',
        name: 'night',
        overrides: { gone: { shown: false, was: 'Swell' }, [layerNamed(doc, 'hull').id]: { offset: { x: 1, y: 2 } } },
      }),
      editionRecord.parse({ id: 'day', kind: 'edition', artboardId: board.id, order: 'a1', name: 'day' }),
      {
        ...artboard('crate'),
        id: 'signet',
        order: 'b01',
        name: 'signet',
        y: 400,
        follows: {
          artboardId: artboard('anchor').id,
          rule: { kind: 'asDrawn' },
          lockup: lockupRule.parse({ arrangement: 'wide', wordmarkId: board.id }),
        },
      },
      acceptanceRecord.parse({
        id: 'fine',
        kind: 'acceptance',
        check: 'off-grid',
        pieceId: '',
        message: 'was off',
        reason: 'it has to be',
      }),
    ],
    removes: [],
  });
  doc.apply(performRequest(doc, 'write-text', { settings: { words: 'Wash', x: board.x + 4, y: board.y + 9 } }));
  doc.apply(performRequest(doc, 'slice-layers', { layers: ['hull'] }));
  doc.apply(performRequest(doc, 'draw-piece', { settings: { what: 'slice', x: 1.5, y: 2, width: 9, height: 9 } }));
  return doc;
}

/** Settings that each act takes; what is not here takes none. */
export const SETTINGS: Record<string, Record<string, unknown>[]> = {
  move: [{ dx: 3 }, { dx: -2, dy: 1 }],
  align: [{ edge: 'left' }, { edge: 'middle', to: 'artboard' }, { edge: 'top', to: 'grid' }],
  distribute: [{ axis: 'across' }, { axis: 'down' }],
  mirror: [{ across: 'horizontally' }],
  turn: [{ degrees: 30 }, { degrees: 90, around: 'se' }],
  resize: [{ widthPx: 30 }, { heightPx: 8, strokes: 'kept' }],
  delete: [{ followers: 'keep' }, { followers: 'delete' }, {}],
  reorder: [{ to: 'front' }, { to: 'backward' }],
  show: [{ shown: false }],
  'whole-strokes': [{ widthPx: 100 }, { widthPx: 37 }, {}],
  'fit-edges': [{}, { widthPx: 20 }, { widths: 'kept' }],
  'change-colour': [
    { from: '#0c6a53', to: '#d2452f' },
    { from: '#0c6a53', to: '#d2452f', within: 'selection' },
  ],
  'draw-piece': [{ what: 'artboard', x: 500, y: 0, width: 24, height: 24 }],
  'artboards-around': [{ marginPx: 2, square: true }],
  'artboards-for-groups': [{}, { square: true, equal: true, sheet: 'off' }, { rows: false, sheet: 'stays' }],
  'slice-everything': [{}, { name: 'sheet', to: 'artboards' }],
  'trim-to-artwork': [{ marginPx: 1 }],
  'bring-to-size': [{ longestPx: 60 }, { longestPx: 7.5 }],
  'set-rect': [{ width: 60 }, { x: 9.5 }],
  number: [{ by: 'name' }, { by: 'place' }],
  rename: [
    { rule: { kind: 'template', template: '{name}-{number}' } },
    { rule: { kind: 'replace', find: 'a', replaceBy: '' } },
  ],
  rows: [{ columns: 2 }],
  tiles: [
    { columns: 2, rows: 3 },
    { tileWidthPx: 10, tileHeightPx: 10, keepWhole: false },
  ],
  'editions-from-table': [
    {
      table: [
        ['edition', 'hull'],
        ['day', '#fff'],
        ['night', ''],
      ],
    },
    { table: [['edition'], ['x']], takeOutMissing: true },
  ],
  'switch-pieces': [{ on: false }],
  'set-piece-rules': [
    { rules: [{ id: 'r1', match: { kind: 'groups' }, margin: 2 }] },
    { rules: [{ id: 'r2', match: { kind: 'named', like: '*' } }] },
    { rules: [] },
  ],
  'outputs-in-words': [
    { words: 'png 16 32, svg' },
    { words: '1-2: svg; 3: none; pdf' },
    { words: 'pdf', instead: true },
    { words: 'nothing' },
  ],
  'set-paint': [
    { paint: { fill: '#d2452f' } },
    { paint: { 'stroke-width': '2' }, opacity: 0.5 },
    { paint: { fill: 'url(//x)' } },
  ],
  'set-words': [{ words: 'Ebb' }, { words: 'Flood\nand ebb' }],
  'set-text': [{ family: 'Spline Sans Mono' }, { sizePx: 9 }, { weight: '700', anchor: 'middle' }],
  'mark-layers': [{ locked: true }, { benchOnly: true }],
  'rename-layer': [{ name: 'keel' }, { name: '' }],
  'hold-to': [{ x: 'left' }, { y: null }, { x: null, y: 'both' }],
  'round-corners': [{ radius: 2 }, { radius: 0 }],
  'draw-shape': [
    { shape: 'line', x: 0, y: 0, width: 9, height: 0 },
    { shape: 'polygon', x: 1, y: 1, width: 9, height: 9, corners: 3, fill: '#d2452f' },
    { shape: 'ellipse', x: 0, y: 0, width: 0, height: 4 },
  ],
  'write-text': [{ words: 'Ebb', x: 4, y: 9 }],
  'move-in-tree': [{ into: 'root', inFrontOf: null }],
  transform: [{ matrix: [2, 0, 0, 2, 0, 0], verb: 'resize' }, { matrix: [0, 1, -1, 0, 4, 4] }],
  'set-difference': [{ tint: '#d2452f' }, { tint: null }, { opacity: 0.5 }],
  'rename-piece': [{ name: 'keel' }],
  'set-background': [{ background: '#d2452f' }, { background: null }],
  'set-slice': [{ margin: 2 }, { square: true, wholePx: true }, { shape: { kind: 'ellipse' } }],
  'take-back-difference': [
    { editionId: 'night', layerId: 'gone', field: 'shown' },
    { editionId: 'night', layerId: 'hull' },
  ],
  'set-rule': [{ rule: { kind: 'black' } }, { rule: { kind: 'tint', colour: '#d2452f' } }],
  'set-lockup': [{ gap: 1 }, { arrangement: 'stacked', align: 'start' }],
  'make-variants': [
    { variants: ['reversed', 'mono-dark'] },
    { variants: ['grey'], naming: '{variant}', choices: { grey: { ground: '#ffffff' } } },
  ],
  'make-lockups': [{ arrangements: ['wide'] }, { arrangements: ['stacked', 'emblem'], colourings: ['grey'], gap: 1 }],
  'set-smallest': [{ px: 24, mm: 8 }, { mm: 5 }, { px: null, mm: null }],
  'set-colour': [
    { colour: '#0c6a53', name: 'kelp', cmyk: [88, 20, 70, 22] },
    { colour: '#0C6A53', spot: 'Kelp 12' },
    { colour: '#0c6a53', name: null },
  ],
  'set-project': [{ naming: '{number}-{piece}' }, { gridPx: 8 }, { defaultSpecId: null }],
  'move-in-order': [{ by: 1 }, { by: -1 }],
  'accept-findings': [{ findings: [{ check: 'off-grid', pieceId: 'night', message: 'is off' }] }],
  'look-again': [{ findings: [{ check: 'off-grid', pieceId: '', message: 'was off' }] }],
  'add-spec': [{ ready: 'web' }, { empty: true }],
  'add-output': [{}, { size: { kind: 'width', widthPx: 64 }, suffix: '-64', settings: { format: 'png' } }],
};

/** Settings that name records of the project. */
export function namedIn(doc: ProjectDocument): Record<string, Record<string, unknown>[]> {
  const [one, ...others] = doc.list('output').map(({ id }) => id);
  const [{ id: specId }] = doc.list('spec');
  const [hull, flag, vessel] = ['hull', 'flag', 'vessel'].map((layer) => layerNamed(doc, layer).id);
  const ring = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>';
  const outlined = (name: string) => {
    const jobs = doc.list('layer').flatMap(({ id, tag }) => (tag === 'text' ? [] : jobsOfAlone(doc, name, id)));
    return { outlines: Object.fromEntries(jobs.map(({ key }) => [key, ring])) };
  };
  return {
    'strokes-to-outlines': [outlined('strokes-to-outlines')],
    unite: [outlined('unite')],
    'attach-differences': [{ from: 'gone', to: flag }],
    'combine-editions': [{ groups: [vessel] }],
    'give-to-base': [{ editionId: 'night', layerId: hull }],
    'give-difference': [
      { editionId: 'night', layerId: hull },
      { editionId: 'night', layerId: hull, field: 'offset', to: ['day'] },
    ],
    follow: doc.list('artboard').map(({ id }) => ({ sourceId: id })),
    'vary-output': [{ outputId: one, sizes: [{ kind: 'width', widthPx: 9 }], formats: ['pdf'] }],
    'duplicate-output': [{ outputId: one }, { outputId: one, suffix: '-x' }],
    'shift-output': [
      { outputId: one, to: 'right' },
      { outputId: one, to: 'left' },
    ],
    'remove-output': [{ outputId: one }],
    'set-output': [
      { outputId: one, suffix: '-x' },
      { outputId: one, on: false },
    ],
    'switch-files': [
      { on: false, outputIds: [one] },
      { on: true, outputIds: [one, ...others], alone: true },
    ],
    'follow-spec': [
      { specId, on: false },
      { specId, on: true },
    ],
    'remove-spec': [{ specId }],
    'set-spec': [
      { specId, name: 'web' },
      { specId, drawnAtScale: 2 },
    ],
  };
}
