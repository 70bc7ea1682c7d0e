import { Composer, NO_FONTS, outputRecord, performRequest, planFiles, sizeOf } from '../src';
import { project, svg } from './fixtures';
import { harbour } from './harbour';

const sources = { fonts: NO_FONTS, pictures: () => undefined };

/** A lockup of a square emblem beside a wordmark four times as wide, with clear space of half its height. */
function lockup() {
  const { doc, artboard } = project({
    emblem: svg('<rect width="24" height="24" fill="#0c6a53"/>'),
    word: svg('<rect width="80" height="20" fill="#171b1c"/>', 'width="80" height="20" viewBox="0 0 80 20"'),
  });
  const settings = {
    arrangements: ['wide'],
    ...{ emblemHeight: 1, gap: 0.5, clearSpace: 0.5 },
    emblemId: artboard('emblem').id,
    colourings: [],
  };
  doc.apply(
    performRequest(doc, 'make-lockups', { ids: ['emblem', 'word'].map((name) => artboard(name).id), settings }),
  );
  return doc;
}

test.each([
  ['piece', false, [130, 40], '0 0 130 40'],
  ['none', false, [110, 20], '10 10 110 20'],
  ['piece', true, [130, 130], '0 -45 130 130'],
  ['none', true, [110, 110], '10 -35 110 110'],
] as const)('room %s, square %s: a lockup is %j large, and shows of the plane %s', (room, square, size, viewBox) => {
  const doc = lockup();
  const [output] = doc.list('output').filter(({ settings }) => settings.format === 'svg');
  doc.apply({ puts: [{ ...output, room, square }], removes: [] });
  const plan = planFiles(doc, 'p');
  const board = doc.list('artboard').find(({ follows }) => follows?.lockup);
  const file = plan.files.find(({ pieceId, outputId }) => pieceId === board?.id && outputId === output.id);
  expect([file?.widthPx, file?.heightPx]).toEqual(size);
  const composed = file && new Composer(doc, sources).compose(file).svg;
  expect(composed).toContain(`viewBox="${viewBox}"`);
  // A square file is clipped to the piece, so that its neighbours on the plane do not show.
  expect(composed?.includes('clip-path')).toBe(square);
});

test('a piece without clear space is what it was; one that is square, too', () => {
  const doc = harbour();
  const [output] = doc.list('output');
  const before = planFiles(doc, 'p').files.filter(({ outputId }) => outputId === output.id);
  doc.apply({ puts: [{ ...output, square: true, room: 'none' }], removes: [] });
  const after = planFiles(doc, 'p').files.filter(({ outputId }) => outputId === output.id);
  const lockups = new Set(doc.list('artboard').flatMap(({ id, follows }) => (follows?.lockup ? [id] : [])));
  for (const [i, file] of after.entries()) {
    expect(file.widthPx).toBe(file.heightPx);
    if (!lockups.has(file.pieceId)) expect(file.widthPx).toBe(Math.max(before[i].widthPx, before[i].heightPx));
  }
});

test('an output from before there was a choice is made as it was', () => {
  const doc = lockup();
  const [output] = doc.list('output');
  const { room: _, square: __, ...old } = output;
  const planned = planFiles(doc, 'p').files;
  doc.apply({ puts: [old as typeof output], removes: [] });
  expect(planFiles(doc, 'p').files).toEqual(planned);
  expect(outputRecord.parse(old)).toEqual(output);
});

test('sizes in mm are true: 96 px to the inch for vectors, 300 for pixels', () => {
  const region = { x: 0, y: 0, width: 100, height: 50 };
  expect(sizeOf(region, { kind: 'widthMm', mm: 25.4 }, 1, 'vectors')).toMatchObject({
    widthPx: 96,
    heightPx: 48,
    dpi: 96,
  });
  expect(sizeOf(region, { kind: 'widthMm', mm: 25.4 })).toMatchObject({ widthPx: 300, heightPx: 150, dpi: 300 });
  expect(sizeOf(region, { kind: 'heightMm', mm: 50.8 }, 2, 'vectors')).toMatchObject({ widthPx: 384, heightPx: 192 });
});
