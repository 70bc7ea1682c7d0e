import {
  artboardsNamed,
  artboardToSlice,
  type Bounds,
  boundsOfLayers,
  type Clip,
  layerBounds,
  layersOn,
  pasteClip,
  pieces,
  readSvg,
  renumbered,
  replaceArtwork,
  sliceOfArtboards,
  sliceOfEverything,
  sliceRecord,
  sliceRegion,
  slicesKept,
  sliceToArtboard,
  stepAside,
  stepsOnto,
  takeCopy,
} from '../src';
import { layerNamed, nearlyEqual, project, refusalOf, svg } from './fixtures';

const three = () =>
  project({
    leaf: svg('<g id="g" fill="#080" transform="scale(2)"><rect id="r" x="2" y="3" width="4" height="4"/></g>'),
    boat: svg('<circle id="c" cx="12" cy="12" r="5"/>'),
    crab: svg('<path id="p" d="M2 2h20v4z"/>', 'width="32" height="24"'),
  });
const copyOf = (doc: ReturnType<typeof three>['doc'], ids: string[]): Clip => {
  const clip = takeCopy(doc, ids);
  if (!clip) throw new Error('nothing was copied');
  return clip;
};

describe('copies', () => {
  test('in place: the same box, its own ids, paint of its group taken along', () => {
    const { doc } = three();
    const { id } = layerNamed(doc, 'r');
    const before = layerBounds(doc, id);
    const { puts, selected } = pasteClip(doc, copyOf(doc, [id]), [{ dx: 0, dy: 0 }]);
    doc.apply({ puts, removes: [] });
    expect(selected).toHaveLength(1);
    expect(selected[0]).not.toBe(id);
    nearlyEqual(layerBounds(doc, selected[0]), before as Bounds);
    expect(doc.find('layer', selected[0])?.attrs.fill).toBe('#080');
  });

  test('onto each of many artboards, as far from the corner as on its own', () => {
    const { doc, artboard } = three();
    const clip = copyOf(doc, [layerNamed(doc, 'r').id]);
    const others = [artboard('boat'), artboard('crab')];
    const { puts, selected } = pasteClip(doc, clip, stepsOnto(clip, others));
    doc.apply({ puts, removes: [] });
    const own = artboard('leaf');
    selected.forEach((id, i) => {
      const box = layerBounds(doc, id) as Bounds;
      expect(box.minX - others[i].x).toBeCloseTo(clip.box.minX - own.x);
      expect(box.minY - others[i].y).toBeCloseTo(clip.box.minY - own.y);
    });
  });

  test('artboards with what lies on them, editions and all, under names of their own and off the others', () => {
    const { doc, artboard } = three();
    const [group] = layersOn(doc, artboard('leaf'));
    doc.apply({
      puts: [
        {
          id: 'ed1',
          kind: 'edition',
          artboardId: artboard('leaf').id,
          order: 'a0',
          name: 'autumn',
          overrides: { [group.id]: { tint: '#a00000' } },
          on: true,
          specIds: [],
          offOutputIds: [],
        },
      ],
      removes: [],
    });
    const clip = copyOf(doc, [artboard('leaf').id]);
    const { puts, selected } = pasteClip(doc, clip, [stepAside(doc, clip)]);
    doc.apply({ puts, removes: [] });
    const made = artboard('leaf 2');
    expect(selected).toEqual([made.id]);
    expect(layersOn(doc, made)).toHaveLength(1);
    const edition = doc.list('edition').find((each) => each.artboardId === made.id);
    expect(Object.keys(edition?.overrides ?? {})).toEqual([layersOn(doc, made)[0].id]);
    for (const other of doc.list('artboard')) {
      if (other.id === made.id) continue;
      const apart =
        made.x >= other.x + other.width ||
        other.x >= made.x + made.width ||
        made.y >= other.y + other.height ||
        other.y >= made.y + made.height;
      expect(apart).toBe(true);
    }
  });

  test('nothing gives no copy; a copy does not care what becomes of its original', () => {
    const { doc } = three();
    expect(takeCopy(doc, [])).toBeNull();
    const { id } = layerNamed(doc, 'c');
    const clip = copyOf(doc, [id]);
    doc.apply({ puts: [], removes: [id] });
    doc.apply({ puts: pasteClip(doc, clip, [{ dx: 1, dy: 0 }]).puts, removes: [] });
    expect(boundsOfLayers(doc, [layerNamed(doc, 'c').id])?.minX).toBeCloseTo(clip.box.minX + 1);
  });
});

describe('slices of all kinds', () => {
  test('one page out of several artboards; everything', () => {
    const { doc, artboard } = three();
    const page = sliceOfArtboards(doc, [artboard('leaf'), artboard('crab')], []);
    const region = sliceRegion(doc, page);
    expect(region).toMatchObject({ x: artboard('leaf').x });
    doc.apply({ puts: [page, sliceOfEverything(doc, 'all', 'artwork', [])], removes: [] });
    expect(
      pieces(doc)
        .filter((piece) => piece.kind === 'slice')
        .every((piece) => !piece.problem),
    ).toBe(true);
    expect(refusalOf(() => sliceOfArtboards(doc, [artboard('leaf')], [])).code).toBe('slice.few');
  });

  test('artboard to slice and back: the same region, name, specs and id', () => {
    const { doc, artboard } = three();
    const before = artboard('boat');
    const slice = artboardToSlice(doc, before);
    doc.apply({ puts: [slice], removes: [] });
    const { order: _a, ...back } = sliceToArtboard(doc, slice);
    const { order: _b, ...was } = before;
    expect(back).toEqual({ ...was, background: null });
  });

  test('a variant, or an artboard that is followed, is no slice', () => {
    const { doc, artboard } = three();
    doc.apply({
      puts: [{ ...artboard('crab'), follows: { artboardId: artboard('boat').id, rule: { kind: 'white' } } }],
      removes: [],
    });
    expect(refusalOf(() => artboardToSlice(doc, artboard('crab'))).code).toBe('slice.variant');
    expect(refusalOf(() => artboardToSlice(doc, artboard('boat'))).code).toBe('slice.followed');
  });

  test('a slice whose layer goes can keep the region it had', () => {
    const { doc } = three();
    const { id } = layerNamed(doc, 'r');
    const slice = sliceRecord.parse({
      id: 'sl',
      kind: 'slice',
      order: 'a0',
      name: 'cut',
      source: { kind: 'layer', layerId: id },
      margin: 2,
    });
    doc.apply({ puts: [slice], removes: [] });
    const before = sliceRegion(doc, slice);
    const [{ kept }] = slicesKept(doc, new Set([id]));
    doc.apply({ puts: [kept], removes: [id] });
    expect(sliceRegion(doc, kept)).toEqual(before);
  });

  test('renumbering the chosen leaves the others where they stand', () => {
    const { doc, artboard } = three();
    doc.apply({ puts: renumbered(doc.list('artboard'), [artboard('crab'), artboard('leaf')]), removes: [] });
    expect(doc.list('artboard').map((each) => each.name)).toEqual(['crab', 'boat', 'leaf']);
  });
});

describe('an updated file', () => {
  test('replaces the artwork of the artboard of its name: place, id, outputs and slices stay', () => {
    const { doc, artboard } = three();
    const before = artboard('boat');
    const [old] = layersOn(doc, before);
    doc.apply({
      puts: [
        sliceRecord.parse({
          id: 'sl',
          kind: 'slice',
          order: 'a0',
          name: 'cut',
          source: { kind: 'layer', layerId: old.id },
        }),
      ],
      removes: [],
    });
    expect(artboardsNamed(doc, ['BOAT', 'other']).map((each) => each.name)).toEqual(['boat']);
    const change = replaceArtwork(
      doc,
      before,
      readSvg(svg('<rect id="new" width="30" height="20"/>', 'width="40" height="24"'), 'boat.svg'),
    );
    doc.apply(change);
    expect(artboard('boat')).toEqual({ ...before, width: 40 });
    expect(doc.list('layer').some((layer) => layer.name === 'c')).toBe(false);
    const box = layerBounds(doc, layerNamed(doc, 'new').id) as Bounds;
    nearlyEqual(box, { minX: before.x, minY: before.y, maxX: before.x + 30, maxY: before.y + 20 });
    const slice = doc.find('slice', 'sl');
    expect(slice && sliceRegion(doc, slice)).toMatchObject({ width: 30, height: 20 });
    expect(artboard('leaf')).toBeDefined();
    expect(layersOn(doc, artboard('leaf'))).toHaveLength(1);
  });
});
