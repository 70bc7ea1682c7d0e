import { type Bounds, layerBounds, layersAsSvg, ProjectDocument, placeArtwork, readSvg } from '../src';
import { layerNamed, nearlyEqual, project, svg } from './fixtures';

const source = () =>
  project({
    a: svg(
      '<defs><linearGradient id="shine"><stop stop-color="#fff"/><stop offset="1" stop-color="#0c6a53"/></linearGradient></defs><g id="g" fill="#d2452a" transform="translate(3 2)"><rect id="r" width="6" height="5"/><rect id="s" x="8" width="4" height="4" fill="url(#shine)"/></g><text id="t" x="2" y="20" font-size="6">kelp <tspan font-weight="700">bay</tspan></text>',
    ),
  }).doc;

test('copied out and read in again: size, paint of the group, gradient and live text are there', () => {
  const doc = source();
  const text = layersAsSvg(
    doc,
    [layerNamed(doc, 'r').id, layerNamed(doc, 's').id, layerNamed(doc, 't').id],
    () => undefined,
  ) as string;
  const read = readSvg(text, 'clipboard.svg');
  expect(read.dropped).toEqual([]);
  const again = new ProjectDocument(read.layers);
  expect(layerNamed(again, 'r').attrs.fill).toBe('#d2452a');
  expect(read.layers.some((layer) => layer.tag === 'linearGradient')).toBe(true);
  expect(layerNamed(again, 't').text?.map((run) => run.text)).toEqual(['kelp ', 'bay']);
  const [before, after] = [
    layerBounds(doc, layerNamed(doc, 's').id) as Bounds,
    layerBounds(again, layerNamed(again, 's').id) as Bounds,
  ];
  expect(after.maxX - after.minX).toBeCloseTo(before.maxX - before.minX);
});

test('nothing drawn gives nothing to copy', () => {
  expect(layersAsSvg(source(), [], () => undefined)).toBeNull();
});

test('artwork placed around a point: no artboards, groups kept, side by side on whole px', () => {
  const doc = source();
  const before = doc.list('artboard').length;
  const files = ['one', 'two'].map((name) => ({
    name,
    artwork: readSvg(svg('<g id="inner"><rect width="24" height="24"/></g>'), `${name}.svg`),
  }));
  const { records, rootIds } = placeArtwork(doc, files, { x: 100.4, y: 50 });
  doc.apply({ puts: records, removes: [] });
  expect(doc.list('artboard')).toHaveLength(before);
  nearlyEqual(layerBounds(doc, rootIds[0]), { minX: 68, minY: 38, maxX: 92, maxY: 62 });
  nearlyEqual(layerBounds(doc, rootIds[1]), { minX: 108, minY: 38, maxX: 132, maxY: 62 });
  expect(doc.children(rootIds[0])[0].name).toBe('inner');
});

test('text on a path is read again as it was', () => {
  const { doc } = project({
    a: svg(
      '<path id="w" d="M10 70Q50 10 90 70" fill="none"/><text id="t" font-size="9"><textPath href="#w" startOffset="25%">On the <tspan fill="#d2452a">way</tspan></textPath></text>',
    ),
  });
  const written = layersAsSvg(doc, [layerNamed(doc, 't').id], () => undefined) as string;
  expect(written.match(/<textPath /g)).toHaveLength(2);
  const again = layerNamed(new ProjectDocument(readSvg(written, 'clipboard.svg').layers), 't').text;
  expect(again?.map(({ text, attrs }) => [text, attrs.path, attrs.startOffset])).toEqual(
    layerNamed(doc, 't').text?.map(({ text, attrs }) => [text, attrs.path, attrs.startOffset]),
  );
});
