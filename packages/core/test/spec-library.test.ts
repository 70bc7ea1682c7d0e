import {
  FORMATS,
  outputRecord,
  planFiles,
  readSpecFile,
  recordsOfLibrarySpec,
  recordsOfSpecFile,
  SPEC_LIBRARY,
  specToFile,
} from '../src';
import { idFromName } from '../src/compose/ids';
import { project, refusalOf, svg } from './fixtures';

const ICON = svg('<path d="M3 3h18v18z"/>');

test.each(SPEC_LIBRARY.map((spec) => [spec.key, spec] as const))(
  '%s: whole records, no two files on one path, words for people',
  (key, spec) => {
    const { doc } = project({ anchor: ICON, boat: ICON }, key);
    const plan = planFiles(doc, 'p');
    expect(plan.files).toHaveLength(spec.outputs.length * 2);
    expect(plan.troubled).toEqual([]);
    expect(spec.about).toMatch(/\.$/);
    for (const output of doc.list('output')) expect(outputRecord.safeParse(output).success).toBe(true);
  },
);

test('density folders hold one name each, in lower case', () => {
  const { doc } = project({ anchor: ICON }, 'density');
  expect(planFiles(doc, 'p').files.map((file) => [file.path, file.widthPx])).toEqual([
    ['density-0.75x/anchor.png', 18],
    ['density-1x/anchor.png', 24],
    ['density-1.5x/anchor.png', 36],
    ['density-2x/anchor.png', 48],
    ['density-3x/anchor.png', 72],
    ['density-4x/anchor.png', 96],
  ]);
});

test('a spec there is not says which there are', () => {
  const { doc } = project({ anchor: ICON });
  expect(() => recordsOfLibrarySpec('poster', doc)).toThrow(/there are web, app/);
});

test('formats know what they can', () => {
  expect(
    Object.values(FORMATS)
      .filter((format) => !format.transparent)
      .map((format) => format.format),
  ).toEqual(['jpeg']);
});

test.each([
  ['Left leaf', 'Left-leaf'],
  ['3rd', '_3rd'],
  ['  ', ''],
  ['a&b<c>', 'abc'],
  ['løv', 'løv'],
])('the id of %j is %j', (name, id) => expect(idFromName(name)).toBe(id));

describe('a spec as a file', () => {
  const made = () => {
    const { doc } = project({ a: svg('<path d="M2 2h9v9z"/>') }, 'handover');
    return { doc, spec: doc.list('spec')[0] };
  };
  test('saved and read again, it makes the same files under the same names', () => {
    const { doc, spec } = made();
    const text = JSON.stringify(specToFile(doc, spec));
    const other = project({ a: svg('<path d="M2 2h9v9z"/>') }, 'web');
    const { spec: read, outputs } = recordsOfSpecFile(readSpecFile(text, 'logo.json'), other.doc);
    other.doc.apply({ puts: [read, ...outputs, { ...other.artboard('a'), specIds: [read.id] }], removes: [] });
    expect(planFiles(other.doc, 'p').files.map((file) => [file.path, file.widthPx])).toEqual(
      planFiles(doc, 'p').files.map((file) => [file.path, file.widthPx]),
    );
  });
  test('a name that is taken gets a number', () => {
    const { doc, spec } = made();
    expect(recordsOfSpecFile(specToFile(doc, spec), doc).spec.name).toBe('Logo handover 2');
  });
  test.each([
    ['words', 'hello', 'spec.json'],
    ['another JSON', '{"a":1}', 'spec.not'],
    ['null', 'null', 'spec.not'],
    ['one from the future', '{"tolvik":"spec","version":9}', 'spec.version'],
    [
      'a quality of 101',
      '{"tolvik":"spec","version":1,"spec":{"name":"x"},"outputs":[{"size":{"kind":"factor","factor":1},"settings":{"format":"jpeg","quality":101}}]}',
      'spec.broken',
    ],
  ])('%s is refused in words', (_, text, code) => {
    const problem = refusalOf(() => readSpecFile(text, 'in.json'));
    expect(problem.code).toBe(code);
    expect(problem.message).toContain('in.json');
  });
});
