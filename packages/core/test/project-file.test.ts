import {
  editionRecord,
  newId,
  ProjectDocument,
  readProjectFile,
  readSvg,
  type StoredBlob,
  sliceRecord,
  writeProjectFile,
} from '../src';
import { project, refusalOf, snapshot, svg, TINY_PNG } from './fixtures';

function full() {
  const made = project({
    anchor: svg(
      '<defs><linearGradient id="g"><stop offset="0" stop-color="#f00"/></linearGradient><clipPath id="spare"><path d="M0 0h1"/></clipPath></defs><g id="a &amp; b"><path data-name="leaf &lt;1&gt;" fill="url(#g)" transform="rotate(30)" d="M1 1h4"/></g><text x="3" y="9">kelp <tspan font-weight="700">farm</tspan></text>',
    ),
    boat: svg(`<image width="1" height="1" href="data:image/png;base64,${TINY_PNG}"/>`),
  });
  const { doc } = made;
  const specIds = [doc.list('spec')[0].id];
  const group = doc.children('root')[0];
  doc.apply({
    puts: [
      { ...group, locked: true, benchOnly: true, opacity: 0.25, shown: false, name: 'locked & "quoted"' },
      sliceRecord.parse({
        id: newId(),
        kind: 'slice',
        order: 'a0',
        name: 'cut',
        specIds,
        source: { kind: 'region', x: -3.25, y: 1, width: 9, height: 9 },
        shape: { kind: 'rounded', radius: 2 },
      }),
      editionRecord.parse({
        id: newId(),
        kind: 'edition',
        order: 'a0',
        artboardId: made.artboard('anchor').id,
        name: 'winter',
        specIds,
        overrides: { [group.id]: { shown: true, tint: '#00ff00' } },
      }),
      { ...doc.settings, naming: '{number}-{piece}' },
    ],
    removes: [],
  });
  const pictures = new Map<string, StoredBlob>();
  for (const blob of readSvg(svg(`<image width="1" height="1" href="data:image/png;base64,${TINY_PNG}"/>`), 'x').blobs)
    pictures.set(blob.hash, blob);
  return { ...made, text: writeProjectFile(doc, 'Harbour "icons" & more', (hash) => pictures.get(hash)) };
}

test('written and read back, nothing is lost', () => {
  const { doc, text } = full();
  const back = readProjectFile(text, 'p.svg');
  expect(back.name).toBe('Harbour "icons" & more');
  expect(Object.fromEntries(back.records.map((record) => [record.id, record]))).toEqual(snapshot(doc));
  expect(back.blobs).toHaveLength(1);
  expect(back.dropped).toEqual([]);
});

test('it is plain SVG: a view for each piece, and the artwork reads as any other', () => {
  const { text } = full();
  expect(text).toContain('<view id="anchor" viewBox="0 0 24 24"/>');
  expect(text).toContain('<view id="cut" viewBox="-3.25 1 9 9"/>');
  expect(readSvg(text, 'p.svg').layers.some((layer) => layer.name === 'leaf <1>')).toBe(true);
});

test('what another editor added is taken in, in front', () => {
  const { text } = full();
  const edited = text.replace('</svg>', '<path id="added" d="M7 7h1"/></svg>');
  const added = readProjectFile(edited, 'p.svg').records.find(
    (record) => record.kind === 'layer' && record.name === 'added',
  );
  expect(added).toMatchObject({ parentId: 'root', tag: 'path' });
});

test.each([
  ['a plain SVG', svg('<path d="M0 0h1"/>'), 'project.not'],
  ['broken project data', full().text.replace('{&quot;version', 'x').replace('{"version', 'x'), 'project.broken'],
  ['a later format', full().text.replace('"version":1', '"version":99'), 'project.version'],
  ['a record that does not fit', full().text.replace('"width":24', '"width":-24'), 'project.broken'],
])('%s is refused', (_, text, code) => expect(refusalOf(() => readProjectFile(text, 'p.svg')).code).toBe(code));

test('scripts in a project file do not survive either', () => {
  const { text } = full();
  const back = readProjectFile(text.replace('</svg>', '<script>alert(1)</script></svg>'), 'p.svg');
  expect(JSON.stringify(back.records)).not.toContain('alert');
  expect(back.dropped).toEqual([{ what: 'a script', count: 1, where: [] }]);
});

test('what did not change stands where it stood, whatever was edited last', () => {
  const { doc } = project({ a: svg('<rect width="9" height="9"/>'), b: svg('<circle r="9"/>') });
  const before = writeProjectFile(doc, 'order', () => undefined);
  const again = new ProjectDocument();
  // As a database gives them: what was changed last comes last.
  again.apply({ puts: [...doc.all()].reverse(), removes: [] });
  expect(writeProjectFile(again, 'order', () => undefined)).toBe(before);
});
