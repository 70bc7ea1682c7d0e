import { same } from '../basics/same';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Output, outputRecord, type Spec, specRecord } from '../document/records';

type LibraryOutput = Omit<Partial<Output>, 'settings'> &
  Pick<Output, 'size'> & { settings: { format: string } & Record<string, unknown> };
export type LibrarySpec = {
  key: string;
  name: string;
  about: string;
  letterCase?: Spec['letterCase'];
  outputs: LibraryOutput[];
};

const factor = (value: number) => ({ kind: 'factor', factor: value }) as const;
const width = (widthPx: number) => ({ kind: 'width', widthPx }) as const;
const box = (widthPx: number, heightPx = widthPx) => ({ kind: 'box', widthPx, heightPx }) as const;
const png = { format: 'png' };

/** Ready-made specs, described by what they are for. */
export const SPEC_LIBRARY: readonly LibrarySpec[] = [
  {
    key: 'web',
    name: 'Web',
    about: 'SVG for inlining, PNG at 1× and 2× for pages that need pictures.',
    outputs: [
      { size: factor(1), settings: { format: 'svg' } },
      { size: factor(1), settings: png },
      { size: factor(2), suffix: '@2x', settings: png },
    ],
  },
  {
    key: 'app',
    name: 'App',
    about: 'PNG at 1×, 2× and 3×, and PDF for builds that take vectors.',
    outputs: [
      { size: factor(1), folder: 'app', settings: png },
      { size: factor(2), suffix: '@2x', folder: 'app', settings: png },
      { size: factor(3), suffix: '@3x', folder: 'app', settings: png },
      { size: factor(1), folder: 'app', settings: { format: 'pdf' } },
    ],
  },
  {
    key: 'density',
    name: 'Density folders',
    about:
      'PNG from 0.75× to 4×, a folder for each density; names in lower case with underscores, since such builds refuse others.',
    letterCase: 'snake',
    outputs: [0.75, 1, 1.5, 2, 3, 4].map((value) => ({
      size: factor(value),
      folder: `density-${value}x`,
      settings: png,
    })),
  },
  {
    key: 'handover',
    name: 'Logo handover',
    about: 'SVG and PDF, PNG with a clear ground at three widths, PNG and JPEG on white and on dark.',
    outputs: [
      { size: factor(1), folder: 'vector', settings: { format: 'svg', ids: 'kept' } },
      { size: factor(1), folder: 'vector', settings: { format: 'pdf' } },
      { size: width(320), suffix: '-320', folder: 'screen', background: 'none', settings: png },
      { size: width(800), suffix: '-800', folder: 'screen', background: 'none', settings: png },
      { size: width(1600), suffix: '-1600', folder: 'screen', background: 'none', settings: png },
      { size: width(1600), suffix: '-1600-white', folder: 'office', background: '#ffffff', settings: png },
      { size: width(1600), suffix: '-1600', folder: 'office', settings: { format: 'jpeg', quality: 90 } },
      { size: width(1600), suffix: '-1600-dark', folder: 'office', background: '#171b1c', settings: png },
      {
        size: width(1600),
        suffix: '-1600-dark',
        folder: 'office',
        background: '#171b1c',
        settings: { format: 'jpeg', quality: 90 },
      },
    ],
  },
  {
    key: 'cards',
    name: 'Cards',
    about: 'JPEG at 1× and 2× for posts and link previews.',
    outputs: [
      { size: factor(1), settings: { format: 'jpeg' } },
      { size: factor(2), suffix: '@2x', settings: { format: 'jpeg', quality: 80 } },
    ],
  },
  {
    key: 'tiles',
    name: 'Tiles',
    about: 'PNG and JPEG at 1×, for pictures cut into pieces.',
    outputs: [
      { size: factor(1), settings: png },
      { size: factor(1), settings: { format: 'jpeg' } },
    ],
  },
  {
    key: 'social',
    name: 'Social',
    about: 'PNG in fixed boxes: square, portrait, landscape and story.',
    outputs: [
      { size: box(1080), suffix: '-square', folder: 'social', background: '#ffffff', settings: png },
      { size: box(1080, 1350), suffix: '-portrait', folder: 'social', background: '#ffffff', settings: png },
      { size: box(1200, 630), suffix: '-landscape', folder: 'social', background: '#ffffff', settings: png },
      { size: box(1080, 1920), suffix: '-story', folder: 'social', background: '#ffffff', settings: png },
    ],
  },
  {
    key: 'white',
    name: 'White set',
    about: 'PNG all in white on a clear ground at 1×, 2× and 4×, for engines that tint it.',
    outputs: [1, 2, 4].map((value) => ({
      size: factor(value),
      suffix: value === 1 ? '' : `@${value}x`,
      folder: 'white',
      background: 'none' as const,
      recolour: { kind: 'white' } as const,
      settings: png,
    })),
  },
  {
    key: 'print',
    name: 'Print',
    about: 'PDF, and PNG at 300 dpi.',
    outputs: [
      { size: factor(1), folder: 'print', settings: { format: 'pdf' } },
      { size: { kind: 'dpi', dpi: 300 }, folder: 'print', settings: png },
    ],
  },
  {
    key: 'cutting',
    name: 'Cutting and engraving',
    about: 'SVG in mm and PDF at true size: each colour one path, no strokes, nothing lying over anything.',
    outputs: [
      { size: factor(1), folder: 'cutting', settings: { format: 'svg', dimensions: 'mm', shapes: 'united' } },
      { size: factor(1), folder: 'cutting', settings: { format: 'pdf', shapes: 'united' } },
    ],
  },
  {
    key: 'favicon',
    name: 'Favicon sizes',
    about: 'PNG fitted in squares of 16, 32, 48, 180, 192 and 512 px.',
    outputs: [16, 32, 48, 180, 192, 512].map((side) => ({
      size: box(side),
      suffix: `-${side}`,
      folder: 'favicon',
      settings: png,
    })),
  },
];

/** The records of a library spec, placed behind the specs the document has. Throws when there is no such spec. */
export function recordsOfLibrarySpec(key: string, doc: ProjectDocument): { spec: Spec; outputs: Output[] } {
  const found = SPEC_LIBRARY.find((entry) => entry.key === key || entry.name.toLowerCase() === key.toLowerCase());
  if (!found)
    throw new Error(`no spec called "${key}"; there are ${SPEC_LIBRARY.map((entry) => entry.key).join(', ')}`);
  const spec = specRecord.parse({
    id: newId(),
    kind: 'spec',
    order: ordersAfter(lastOrder(doc.list('spec')), 1)[0],
    name: found.name,
    about: found.about,
    letterCase: found.letterCase,
  });
  const orders = ordersAfter(null, found.outputs.length);
  const outputs = found.outputs.map((output, i) =>
    outputRecord.parse({ id: newId(), kind: 'output', specId: spec.id, order: orders[i], ...output }),
  );
  return { spec, outputs };
}

/** The ready-made spec that a project begins with. */
export const STARTING_SPEC = 'web';

/** Whether a project's only spec is the one that it began with, it and its outputs as they came: nobody chose them. */
export function isStartingSpec(doc: ProjectDocument): boolean {
  const specs = doc.list('spec');
  const outputs = doc.list('output');
  if (specs.length !== 1 || specs[0].id !== doc.settings.defaultSpecId) return false;
  const began = recordsOfLibrarySpec(STARTING_SPEC, doc);
  const plain = ({ id: _, order: __, ...fields }: Spec | Output) => ({ ...fields, specId: null });
  return same([specs[0], ...outputs].map(plain), [began.spec, ...began.outputs].map(plain));
}
