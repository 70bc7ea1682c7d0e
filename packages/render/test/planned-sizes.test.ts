import {
  artboardRecord,
  Composer,
  layerRecord,
  NO_FONTS,
  newId,
  type Output,
  outputRecord,
  ProjectDocument,
  planFiles,
  ROOT,
  recordsOfLibrarySpec,
  sizeRule,
} from '@tolvik/core';
import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { renderFile } from '../src';

/** Somewhere on the plane, often between pixels. */
const region = fc.record({
  x: fc.double({ min: -500, max: 500, noNaN: true }),
  y: fc.double({ min: -500, max: 500, noNaN: true }),
  width: fc.double({ min: 0.6, max: 90, noNaN: true }),
  height: fc.double({ min: 0.6, max: 90, noNaN: true }),
});
const rule = fc.oneof(
  fc.double({ min: 0.25, max: 4, noNaN: true }).map((factor) => ({ kind: 'factor' as const, factor })),
  fc.integer({ min: 1, max: 160 }).map((widthPx) => ({ kind: 'width' as const, widthPx })),
  fc
    .record({ widthPx: fc.integer({ min: 1, max: 120 }), heightPx: fc.integer({ min: 1, max: 120 }) })
    .map((box) => ({ kind: 'box' as const, ...box })),
  fc.integer({ min: 30, max: 400 }).map((dpi) => ({ kind: 'dpi' as const, dpi })),
);
const format = fc.constantFrom('png' as const, 'jpeg' as const, 'svg' as const, 'pdf' as const);

test('what is written has the size that was planned, for any region, rule and format', async () => {
  const made = new Set<string>();
  await fc.assert(
    fc.asyncProperty(region, rule, format, async (at, size, kind) => {
      fc.pre(sizeRule.safeParse(size).success && Math.max(at.height / at.width, at.width / at.height) < 20);
      const doc = new ProjectDocument();
      const { spec } = recordsOfLibrarySpec('web', doc);
      const output: Output = outputRecord.parse({
        id: newId(),
        kind: 'output',
        specId: spec.id,
        order: 'a0',
        size,
        settings: { format: kind },
      });
      const artboard = artboardRecord.parse({
        id: newId(),
        kind: 'artboard',
        order: 'a0',
        name: 'any',
        ...at,
        specIds: [spec.id],
      });
      const mark = layerRecord.parse({
        id: newId(),
        kind: 'layer',
        parentId: ROOT,
        order: 'a0',
        tag: 'rect',
        attrs: {
          x: String(at.x),
          y: String(at.y),
          width: String(at.width),
          height: String(at.height),
          fill: '#0c6a53',
        },
      });
      doc.apply({ puts: [spec, output, artboard, mark], removes: [] });
      const [file] = planFiles(doc, 'sizes').files;
      expect(file.problem).toBeUndefined();
      const { svg } = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined }).compose(file);
      const { measured } = await renderFile({
        svg,
        settings: output.settings,
        widthPx: file.widthPx,
        heightPx: file.heightPx,
        dpi: file.dpi,
        ground: kind === 'jpeg' ? '#ffffff' : null,
      });
      expect(measured.widthPx).toBeCloseTo(file.widthPx, 6);
      expect(measured.heightPx).toBeCloseTo(file.heightPx, 6);
      if (kind === 'png' || kind === 'jpeg') expect(Number.isInteger(measured.widthPx * measured.heightPx)).toBe(true);
      made.add(kind);
    }),
    runs(200),
  );
  expect(made.size).toBe(4);
}, 300_000);
