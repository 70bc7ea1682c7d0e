import './browser-storage';
import 'fake-indexeddb/auto';

import { type Artboard, type Layer, layerBounds, newId, type ProjectRecord, sliceRecord } from '@tolvik/core';
import { useBench } from '../src/bench/bench-state';
import { type Camera, toPlane, toScreen } from '../src/bench/plane/camera';
import type { Gesture, GestureHost, Pointer } from '../src/bench/plane/gesture';
import { band, drawRegion, drawShape, drawText } from '../src/bench/plane/gestures/draw';
import { press } from '../src/bench/plane/gestures/move';
import { pan } from '../src/bench/plane/gestures/pan';
import { resizePiece } from '../src/bench/plane/gestures/resize-piece';
import { resizeLayers, turnLayers } from '../src/bench/plane/gestures/shape-layers';
import { handlesOf, turnHandle } from '../src/bench/plane/handles';
import {
  layerFrame,
  layerHandleAt,
  layersAt,
  layersIn,
  pieceAt,
  pieceHandleAt,
  piecesIn,
  selectedLayerAt,
} from '../src/bench/plane/hit';
import { Picking } from '../src/bench/plane/picking';
import { NO_PREVIEW } from '../src/bench/plane/preview';
import { sceneOf } from '../src/bench/plane/scene';
import { Painter } from '../src/painter/painter';
import type { Session } from '../src/project/session/session';
import { sessionWith } from './opened';

const svg = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40" viewBox="0 0 40 40">${inner}</svg>`;
const FILES = {
  boat: svg(
    '<g id="vessel"><rect id="hull" x="4" y="24" width="30" height="8" fill="#12343b"/><rect id="sail" x="18" y="4" width="12" height="16" fill="#0c6a53"/></g>',
  ),
  buoy: svg('<rect id="float" x="10" y="10" width="20" height="20" fill="#d2452a"/>'),
};

let session: Session;
let host: GestureHost;
beforeEach(() => {
  session = sessionWith(FILES);
  const { doc } = session;
  let camera: Camera = { x: -20, y: -20, scale: 4 };
  host = {
    session,
    painter: new Painter(),
    get camera() {
      return camera;
    },
    get scene() {
      return sceneOf(doc);
    },
    width: 800,
    height: 600,
    preview: NO_PREVIEW,
    look: (next) => {
      camera = next;
    },
  };
  useBench.getState().set({ carry: true, tool: 'select', shape: 'rectangle', panel: 'pieces', typing: null });
});

const board = (name: string) => session.doc.list('artboard').find((each) => each.name === name) as Artboard;
const layer = (name: string): Layer => {
  for (const each of session.doc.each('layer')) if (each.name === name) return each;
  throw new Error(`no layer ${name}`);
};
const boxOf = (name: string) => {
  const box = layerBounds(session.doc, layer(name).id);
  if (!box) throw new Error(`${name} draws nothing`);
  return box;
};
/** The pointer at a place of the plane. */
const at = (px: number, py: number, keys: Partial<Pointer> = {}): Pointer => {
  const [x, y] = toScreen(host.camera, px, py);
  return { x, y, px, py, shift: false, ctrl: false, ...keys };
};
/** Carries a gesture along some places and lets go at the last, as the plane does. */
function drag(gesture: Gesture, ...places: Pointer[]): void {
  let going = gesture;
  for (const place of places) {
    const next = going.move(place);
    if (next) {
      going = next;
      going.move(place);
    }
  }
  going.finish(places.at(-1) as Pointer);
  host.preview = NO_PREVIEW;
}
const records = (): ProjectRecord[] => [...session.doc.all()].sort((a, b) => (a.id < b.id ? -1 : 1));
/** Does something that one undo takes back to the byte. */
function onceUndone(act: () => void, look: () => void): void {
  const before = records();
  act();
  look();
  session.undo();
  expect(records()).toEqual(before);
}
const addSlice = (fields: Partial<{ x: number; y: number; width: number; height: number; name: string }>) => {
  const slice = sliceRecord.parse({
    id: newId(),
    kind: 'slice',
    order: 'bzz',
    name: fields.name ?? 'cut',
    source: { kind: 'region', x: 0, y: 0, width: 30, height: 20, ...fields },
    specIds: [],
  });
  session.doc.apply({ puts: [slice], removes: [] });
  return slice;
};

describe('what lies under a point', () => {
  test('what lays paint there is found before what only has it in its box', () => {
    const { x, y } = board('buoy');
    const frame = {
      ...layer('float'),
      id: newId(),
      order: 'bzz',
      name: 'frame',
      attrs: { x: '0', y: '0', width: '40', height: '40', fill: 'none', stroke: '#d2452a' },
    };
    session.doc.apply({ puts: [frame], removes: [] });
    const front = (px: number, py: number) => layersAt(session.doc, host.camera, x + px, y + py).at(-1)?.name;
    expect([front(20, 20), front(0.4, 20)]).toEqual(['float', 'frame']);
    // Where there is no paint at all, its box will do.
    expect(front(4, 20)).toBe('frame');
  });

  test('the drawn element with the groups around it; hidden and locked ones are not there', () => {
    const { x, y } = board('boat');
    const path = () => layersAt(session.doc, host.camera, x + 20, y + 10).map(({ name }) => name);
    expect(path().slice(-2)).toEqual(['vessel', 'sail']);
    session.doc.apply({ puts: [{ ...layer('sail'), shown: false }], removes: [] });
    expect(path()).toEqual([]);
    session.doc.apply({
      puts: [
        { ...layer('sail'), shown: true },
        { ...layer('vessel'), locked: true },
      ],
      removes: [],
    });
    expect(path()).toEqual([]);
    expect(layersAt(session.doc, host.camera, x - 15, y - 15)).toEqual([]);
  });

  test('an artboard with its ticket; the edge of a slice before it, its inside after it', () => {
    const boat = board('boat');
    const under = (px: number, py: number) => pieceAt(host.scene, host.camera, ...toScreen(host.camera, px, py))?.name;
    expect(under(boat.x + 2, boat.y + 2)).toBe('boat');
    expect(under(boat.x + 5, boat.y + boat.height + 3)).toBe('boat');
    expect(under(boat.x - 10, boat.y + 2)).toBeUndefined();
    addSlice({ x: boat.x - 15, y: boat.y + 8, width: 30, height: 20 });
    expect(under(boat.x - 15, boat.y + 20)).toBe('cut');
    expect(under(boat.x + 8, boat.y + 25)).toBe('boat');
    expect(under(boat.x - 10, boat.y + 22)).toBe('cut');
  });

  test('in a band: artboards, else slices; layers as far out as all of a group lies in it', () => {
    const { x, y } = board('boat');
    expect(piecesIn(host.scene, { x: x - 5, y: y - 5, width: 10, height: 10 })).toEqual([board('boat').id]);
    const slice = addSlice({ x: x - 60, y });
    expect(piecesIn(host.scene, { x: x - 70, y, width: 20, height: 5 })).toEqual([slice.id]);
    const names = (width: number, height: number) =>
      layersIn(session.doc, { x, y, width, height }).map((id) => session.doc.find('layer', id)?.name);
    expect(names(40, 21)).toEqual(['sail']);
    expect(names(12, 12)).toEqual([]);
    expect(names(40, 40)).not.toContain('sail');
    expect(names(40, 40)).toHaveLength(1);
  });

  test('handles: those of the one selected piece, else of the frame around selected layers', () => {
    const boat = board('boat');
    const corner = handlesOf(host.camera, boat).find(({ side }) => side === 'se');
    if (!corner) throw new Error('no corner');
    expect(pieceHandleAt(host, corner.x, corner.y)).toBeNull();
    session.select([boat.id]);
    expect(pieceHandleAt(host, corner.x + 2, corner.y - 2)?.side).toBe('se');
    expect(layerHandleAt(host, corner.x, corner.y)).toBeNull();
    session.select([layer('hull').id]);
    const box = boxOf('hull');
    const region = { x: box.minX, y: box.minY, width: box.maxX - box.minX, height: box.maxY - box.minY };
    const turn = turnHandle(host.camera, region);
    expect(layerHandleAt(host, turn.x, turn.y)?.side).toBe('turn');
    expect(layerHandleAt(host, ...toScreen(host.camera, box.minX, box.minY))?.side).toBe('nw');
    expect(selectedLayerAt(host, box.minX + 1, box.minY + 1)?.name).toBe('hull');
    session.doc.apply({ puts: [{ ...layer('hull'), locked: true }], removes: [] });
    expect(layerFrame(session.doc, session.selection)).toBeNull();
  });
});

describe('what a click picks', () => {
  let picking: Picking;
  const nameOf = (id: string | undefined) =>
    id === undefined ? undefined : (session.doc.find('layer', id)?.name ?? host.scene.pieceById.get(id)?.name);
  /** Clicks at a place of an artboard, and says what is selected then. */
  const click = (name: string, px: number, py: number) => {
    const { x, y } = board(name);
    const picked = picking.at(at(x + px, y + py));
    session.select(picked ? [picked.id] : []);
    picking.follow();
    return nameOf(picked?.id);
  };
  beforeEach(() => {
    picking = new Picking(host);
  });

  test('artwork where it lays paint; the artboard by its edge, its ticket and its empty ground', () => {
    const outermost = layersAt(session.doc, host.camera, board('boat').x + 20, board('boat').y + 10)[0];
    expect(click('boat', 20, 10)).toBe(outermost.name);
    expect(click('boat', 8, 8)).toBe('boat');
    expect(click('boat', 0.2, 20)).toBe('boat');
    expect(click('boat', 8, 43)).toBe('boat');
    expect(session.selection).toEqual(new Set([board('boat').id]));
    expect(click('boat', -12, -12)).toBeUndefined();
  });

  test('at the level one is in, which stays while one clicks beside', () => {
    session.select([layer('sail').id]);
    picking.follow();
    expect(click('boat', 10, 28)).toBe('hull');
    expect(click('boat', 8, 8)).toBe('boat');
    expect(click('boat', 20, 10)).toBe('sail');
    // What lies elsewhere is picked as a whole, and one is back where it lies.
    const [whole] = layersAt(session.doc, host.camera, board('buoy').x + 20, board('buoy').y + 20);
    expect(click('buoy', 20, 20)).toBe(whole.name);
  });

  test('out again step by step, then nothing is selected and one is in no group', () => {
    session.select([layer('sail').id]);
    picking.follow();
    let steps = 0;
    while (picking.goOut()) steps++;
    expect(steps).toBe(layersAt(session.doc, host.camera, board('boat').x + 20, board('boat').y + 10).length - 1);
    expect(nameOf([...session.selection][0])).toBe(
      layersAt(session.doc, host.camera, board('boat').x + 20, board('boat').y + 10)[0].name,
    );
  });

  test('what is selected is held from anywhere on it, and a click without a drag picks what lies there', () => {
    const { id, x, y } = board('boat');
    session.select([id]);
    expect(picking.holds(at(x + 20, y + 10))).toBe(true);
    expect(picking.holds(at(board('buoy').x + 20, board('buoy').y + 20))).toBe(false);
    const picked = picking.at(at(x + 20, y + 10))?.id ?? null;
    press(host, at(x + 20, y + 10), picked).finish(at(x + 20, y + 10));
    expect([...session.selection]).toEqual([picked]);
    expect(session.doc.find('layer', picked ?? '')).toBeDefined();
  });

  test('what is locked is not there, and the artboard under it is', () => {
    session.doc.apply({ puts: [{ ...layer('vessel'), locked: true }], removes: [] });
    expect(click('boat', 20, 10)).toBe('boat');
  });
});

describe('what is pressed and dragged', () => {
  test('it is a click until the pointer has gone three px', () => {
    session.select([board('boat').id, board('buoy').id]);
    const before = records();
    const gesture = press(host, at(5, 5), board('boat').id);
    expect(gesture.still).toBe(true);
    drag(gesture, { ...at(5, 5), x: at(5, 5).x + 2 });
    expect(records()).toEqual(before);
    expect([...session.selection]).toEqual([board('boat').id]);
  });

  test('an artboard takes along what lies on it, and leaves it when it is not to carry', () => {
    const from = board('boat');
    const hull = boxOf('hull');
    session.select([from.id]);
    const go = () =>
      drag(press(host, at(from.x + 1, from.y + 1), from.id), at(from.x + 1, from.y + 88, { ctrl: true }));
    onceUndone(go, () => {
      expect(board('boat')).toMatchObject({ x: from.x, y: from.y + 87 });
      expect(boxOf('hull').minY).toBeCloseTo(hull.minY + 87, 6);
    });
    useBench.getState().set({ carry: false });
    onceUndone(go, () => expect([board('boat').y, boxOf('hull').minY]).toEqual([from.y + 87, hull.minY]));
  });

  test('an edge that comes near another meets it, with a guide; Ctrl lets it go free', () => {
    const [boat, buoy] = [board('boat'), board('buoy')];
    session.select([buoy.id]);
    const target = boat.x + boat.width;
    const by = target - buoy.x + 0.9;
    const places = (ctrl: boolean) =>
      [at(buoy.x + 1, buoy.y + 1), at(buoy.x + 1 + by, buoy.y + 1 + 60, { ctrl })] as const;
    const [from, to] = places(false);
    const dragging = press(host, from, buoy.id).move(to);
    dragging?.move(to);
    expect(host.preview.guides.some(({ axis, at: place }) => axis === 'x' && Math.abs(place - target) < 1e-6)).toBe(
      true,
    );
    dragging?.finish(to);
    expect(board('buoy').x).toBe(target);
    session.undo();
    host.preview = NO_PREVIEW;
    drag(press(host, from, buoy.id), places(true)[1]);
    expect(board('buoy').x).toBe(buoy.x + Math.round(by));
  });

  test('Shift keeps it on one axis', () => {
    const { id, x, y } = board('boat');
    session.select([id]);
    drag(press(host, at(x, y), id), at(x + 4, y + 70, { shift: true, ctrl: true }));
    expect(board('boat')).toMatchObject({ x, y: y + 70 });
  });

  test('a layer inside a group is shown where it goes, and given up leaves nothing', () => {
    const before = records();
    session.select([layer('sail').id]);
    const box = boxOf('sail');
    const gesture = press(host, at(box.minX + 1, box.minY + 1), layer('sail').id).move(
      at(box.minX + 9, box.minY + 1, { ctrl: true }),
    );
    gesture?.move(at(box.minX + 9, box.minY + 1, { ctrl: true }));
    expect(host.preview.words).toBe('+8, +0');
    expect([...host.preview.grown.values()].every((grown) => grown.maxX >= box.maxX + 8)).toBe(true);
    gesture?.cancel?.();
    expect(records()).toEqual(before);
  });
});

describe('sides, corners and turns', () => {
  test('an artboard is resized by a side to whole px, with Shift in its proportions', () => {
    const boat = board('boat');
    const piece = host.scene.pieceById.get(boat.id);
    if (!piece) throw new Error('no piece');
    const corner = at(boat.x + 40, boat.y + 40);
    onceUndone(
      () => drag(resizePiece(host, corner, piece, 'se'), at(boat.x + 52.4, boat.y + 44.6)),
      () => expect(board('boat')).toMatchObject({ x: boat.x, y: boat.y, width: 52, height: 45 }),
    );
    onceUndone(
      () => drag(resizePiece(host, corner, piece, 'se'), at(boat.x + 60, boat.y + 41, { shift: true })),
      () => expect(board('boat').width).toBe(board('boat').height),
    );
  });

  test('layers keep their proportions by a corner, and what is across stays', () => {
    session.select([layer('float').id]);
    const box = boxOf('float');
    onceUndone(
      () => drag(resizeLayers(host, at(box.maxX, box.maxY), box, 'se'), at(box.maxX + 10, box.maxY + 2)),
      () => {
        const after = boxOf('float');
        expect([after.minX, after.minY]).toEqual([box.minX, box.minY]);
        expect(after.maxX - after.minX).toBeCloseTo(after.maxY - after.minY, 6);
        expect(Number.isInteger(+(after.maxX - after.minX).toFixed(6))).toBe(true);
      },
    );
    onceUndone(
      () =>
        drag(resizeLayers(host, at(box.minX, box.minY), box, 'nw'), at(box.minX - 10, box.minY + 4, { shift: true })),
      () =>
        expect([boxOf('float').minX, boxOf('float').minY, boxOf('float').maxX]).toEqual([
          box.minX - 10,
          box.minY + 4,
          box.maxX,
        ]),
    );
    onceUndone(
      () => drag(resizeLayers(host, at(box.maxX, box.minY + 5), box, 'e'), at(box.minX - 300, box.minY + 5)),
      () => expect(boxOf('float').maxX).toBeGreaterThan(box.minX),
    );
  });

  test('a frame is turned about its middle, with Shift in steps of 15°', () => {
    session.select([layer('float').id]);
    const box = boxOf('float');
    const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
    const gesture = turnLayers(host, at(cx + 20, cy), box);
    gesture.move(at(cx + 15, cy + 14, { shift: true }));
    expect(host.preview.words).toBe('45°');
    onceUndone(
      () => gesture.finish(at(cx + 15, cy + 14)),
      () => {
        const after = boxOf('float');
        expect([(after.minX + after.maxX) / 2, (after.minY + after.maxY) / 2]).toEqual([
          expect.closeTo(cx, 5),
          expect.closeTo(cy, 5),
        ]);
        expect(after.maxX - after.minX).toBeCloseTo((box.maxX - box.minX) * Math.SQRT2, 4);
      },
    );
  });
});

describe('what is drawn', () => {
  test('an artboard or a slice between two points, from wherever it starts; a click makes one of 24 px', () => {
    onceUndone(
      () => drag(drawRegion(host, at(200.4, 90.2), 'artboard'), at(150, 60), at(160.2, 70.4)),
      () => expect(session.doc.list('artboard').at(-1)).toMatchObject({ x: 160, y: 70, width: 40, height: 20 }),
    );
    onceUndone(
      () => drag(drawRegion(host, at(200, 90), 'slice'), at(230, 100, { shift: true })),
      () => expect(session.doc.list('slice')[0].source).toMatchObject({ x: 200, y: 90, width: 30, height: 30 }),
    );
    onceUndone(
      () => drag(drawRegion(host, at(300, 20), 'artboard'), at(300, 20)),
      () => expect(session.doc.list('artboard').at(-1)).toMatchObject({ x: 300, y: 20, width: 24, height: 24 }),
    );
  });

  test('shapes in the look they have now, a line the way it was drawn', () => {
    for (const shape of ['rectangle', 'ellipse', 'polygon', 'line'] as const) {
      useBench.getState().set({ shape, tool: 'shape' });
      onceUndone(
        () => drag(drawShape(host, at(200, 90)), at(240, 60)),
        () => {
          const [id] = session.selection;
          const box = layerBounds(session.doc, id);
          expect(box && box.maxX - box.minX).toBeGreaterThan(30);
          expect(useBench.getState()).toMatchObject({ tool: 'select', panel: 'layers' });
        },
      );
    }
    useBench.getState().set({ shape: 'line' });
    drag(drawShape(host, at(200, 90)), at(240, 60));
    expect(session.doc.find('layer', [...session.selection][0])?.attrs).toMatchObject({
      x1: '200',
      y1: '90',
      x2: '240',
      y2: '60',
    });
    drag(drawShape(host, at(200, 90)), at(200, 90));
    expect(session.doc.find('layer', [...session.selection][0])?.attrs).toMatchObject({ x1: '200', x2: '224' });
  });

  test('a text stands where the plane was clicked, ready to be typed', () => {
    onceUndone(
      () => drag(drawText(host), at(210.6, 33.3)),
      () => {
        const [id] = session.selection;
        expect(session.doc.find('layer', id)).toMatchObject({ tag: 'text', attrs: { x: '211', y: '33' } });
        expect(useBench.getState().typing).toBe(id);
      },
    );
  });

  test('a band picks while it is drawn, on top of what was picked; with Ctrl layers', () => {
    const [boat, buoy] = [board('boat'), board('buoy')];
    drag(band(host, at(buoy.x - 5, buoy.y - 5), new Set([boat.id])), at(buoy.x + 5, buoy.y + 5));
    expect(new Set(session.selection)).toEqual(new Set([boat.id, buoy.id]));
    drag(band(host, at(buoy.x, buoy.y), new Set()), at(buoy.x + 40, buoy.y + 40, { ctrl: true }));
    expect([...session.selection].map((id) => session.doc.find('layer', id)?.kind)).toEqual(['layer']);
  });

  test('the plane is dragged along, and what was under the pointer stays under it', () => {
    const from = at(20, 20);
    const gesture = pan(host, from);
    for (const [x, y] of [
      [from.x + 31, from.y + 7],
      [from.x - 12, from.y + 50],
    ]) {
      gesture.move({ ...from, x, y });
      const [px, py] = toPlane(host.camera, x, y);
      expect([px, py]).toEqual([expect.closeTo(20, 6), expect.closeTo(20, 6)]);
    }
    gesture.finish(from);
  });
});
