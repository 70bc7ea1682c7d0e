import fc from 'fast-check';
import {
  type Edition,
  editionRecord,
  type Layer,
  layerBounds,
  matchLayers,
  ProjectDocument,
  performRequest,
  planFiles,
  readProjectFile,
  readSvg,
  renamedLayer,
  replaceArtwork,
  sliceRecord,
  writeProjectFile,
} from '../src';
import { assign, type Candidate } from '../src/arrange/assign';
import { layerNamed, project, snapshot, svg } from './fixtures';
import { runs } from './properties';

type Shape = { kind: 'shape'; name: string; colour: string; shape: string };
type Group = { kind: 'group'; name: string; inner: Node[] };
type Node = Shape | Group;

const COLOURS = ['#0c6a53', '#d2452f', '#1d5fa8', '#e8b93a'];
/** Shapes that differ from each other and do not lie on one another. */
const shapeAt = (n: number): string => {
  const [x, y] = [(n % 8) * 12 + 1, Math.floor(n / 8) * 12 + 1];
  const size = 4 + (n % 5);
  if (n % 3 === 0) return `<rect x="${x}" y="${y}" width="${size}" height="${size + (n % 2)}"`;
  if (n % 3 === 1) return `<circle cx="${x + 4}" cy="${y + 4}" r="${size / 2 + n / 50}"`;
  return `<path d="M${x} ${y}h${size}l-${n % 4} ${size}z"`;
};

/** Drawings of up to 40 shapes in groups, each name once. */
const drawings = fc
  .record({
    picks: fc.array(fc.record({ depth: fc.nat(2), colour: fc.nat(3), named: fc.boolean() }), {
      minLength: 1,
      maxLength: 40,
    }),
  })
  .map(({ picks }): Node[] => {
    const root: Node[] = [];
    let open: Group | null = null;
    picks.forEach(({ depth, colour, named }, n) => {
      const shape: Shape = {
        kind: 'shape',
        name: named ? `part ${n}` : '',
        colour: COLOURS[colour],
        shape: shapeAt(n),
      };
      if (depth === 0) {
        open = { kind: 'group', name: `group ${n}`, inner: [shape] };
        root.push(open);
      } else if (depth === 1 && open) open.inner.push(shape);
      else root.push(shape);
    });
    return root;
  });

const gradient =
  '<linearGradient id="shine"><stop stop-color="#fff"/><stop offset="1" stop-color="#0c6a53"/></linearGradient>';
const written = (nodes: readonly Node[]): string =>
  nodes
    .map((node) =>
      node.kind === 'group'
        ? `<g id="${node.name}">${written(node.inner)}</g>`
        : `${node.shape} fill="${node.colour}"${node.name ? ` data-name="${node.name}"` : ''}/>`,
    )
    .join('');
const file = (nodes: readonly Node[]) =>
  svg(
    `${gradient}<rect data-name="ground" width="96" height="96" fill="url(#shine)"/>${written(nodes)}`,
    'width="96" height="96" viewBox="0 0 96 96"',
  );
const mapShapes = (nodes: readonly Node[], change: (shape: Shape, n: number) => Shape): Node[] => {
  let n = 0;
  const visit = (list: readonly Node[]): Node[] =>
    list.map((node) => (node.kind === 'group' ? { ...node, inner: visit(node.inner) } : change(node, n++)));
  return visit(nodes);
};
const shuffled = (nodes: readonly Node[], seed: number): Node[] =>
  [...nodes]
    .map((node, i) => ({ node, key: Math.sin((i + 1) * (seed + 1) * 12.9898) }))
    .sort((a, b) => a.key - b.key)
    .map(({ node }) => (node.kind === 'group' ? { ...node, inner: shuffled(node.inner, seed) } : node));

/** By what is drawn, the ids of all layers of a document: names need not be there. */
const idsByShape = (doc: ProjectDocument) =>
  new Map(
    [...doc.each('layer')]
      .filter(({ tag }) => !['g', 'stop', 'linearGradient'].includes(tag))
      .map((layer) => [geometry(layer), layer.id]),
  );
const geometry = ({ attrs }: Layer) =>
  ['d', 'x', 'y', 'width', 'height', 'cx', 'cy', 'r'].map((name) => attrs[name] ?? '').join(' ');

const replaced = (before: string, after: string) => {
  const { doc, artboard } = project({ a: before });
  const was = snapshot(doc);
  const change = replaceArtwork(doc, artboard('a'), readSvg(after, 'a.svg'));
  const ids = idsByShape(doc);
  const inverse = doc.apply(change);
  return { doc, was, change, ids, now: idsByShape(doc), inverse };
};

test('replaced by the same file, nothing changes at all', () => {
  fc.assert(
    fc.property(drawings, (nodes) => {
      const { change, was, doc } = replaced(file(nodes), file(nodes));
      expect([change.puts, change.removes, change.gone, change.fresh]).toEqual([[], [], [], []]);
      expect(snapshot(doc)).toEqual(was);
    }),
    runs(40),
  );
});

test.each<[string, (nodes: Node[], seed: number) => Node[]]>([
  ['another order', shuffled],
  ['other colours', (nodes) => mapShapes(nodes, (shape) => ({ ...shape, colour: '#777777' }))],
  ['other ids', (nodes) => mapShapes(nodes, (shape, n) => ({ ...shape, name: `id${n}` }))],
  ['no names', (nodes) => mapShapes(nodes, (shape) => ({ ...shape, name: '' }))],
])('replaced by a file with %s, every layer is known again', (_, change) => {
  fc.assert(
    fc.property(drawings, fc.nat(100), (nodes, seed) => {
      const { ids, now, change: made } = replaced(file(nodes), file(change(nodes, seed)));
      expect([...now].sort()).toEqual([...ids].sort());
      expect([made.gone, made.fresh]).toEqual([[], []]);
    }),
    runs(40),
  );
});

test('replaced and undone, all is as it was', () => {
  fc.assert(
    fc.property(drawings, drawings, (one, other) => {
      const { doc, was, inverse } = replaced(file(one), file(other));
      doc.apply(inverse);
      expect(snapshot(doc)).toEqual(was);
    }),
    runs(40),
  );
});

test('a name given here stays, and the layer is known by what its drawing calls it, moved and recoloured', () => {
  const drawn = (sail: string, colour: string, d: string) =>
    svg(`<g id="boat"><path id="${sail}" fill="${colour}" d="${d}"/><rect id="hull" width="9" height="2"/></g>`);
  const { doc, artboard } = project({ a: drawn('sail', '#0c6a53', 'M1 1h5v9z') });
  const sail = layerNamed(doc, 'sail');
  doc.apply({ puts: [renamedLayer(sail, 'canvas')], removes: [] });
  // Nothing of its look or place is left, its name is.
  const next = readSvg(drawn('sail', '#d2452f', 'M15 15h2v-8h3z'), 'a.svg');
  doc.apply(replaceArtwork(doc, artboard('a'), next));
  const kept = doc.find('layer', sail.id);
  expect(kept).toMatchObject({ name: 'canvas', drawnName: 'sail', attrs: { fill: '#d2452f' } });
  // The drawing calls it otherwise too, then as it is called here: there is nothing to keep apart any more.
  doc.apply(replaceArtwork(doc, artboard('a'), readSvg(drawn('jib', '#d2452f', 'M15 15h2v-8h3z'), 'a.svg')));
  expect(doc.find('layer', sail.id)).toMatchObject({ name: 'canvas', drawnName: 'jib' });
  doc.apply(replaceArtwork(doc, artboard('a'), readSvg(drawn('canvas', '#d2452f', 'M15 15h2v-8h3z'), 'a.svg')));
  expect(doc.find('layer', sail.id)).toMatchObject({ name: 'canvas' });
  expect(doc.find('layer', sail.id)).not.toHaveProperty('drawnName');
});

test('a name that nobody gave here goes with its drawing; one that the drawing dropped stays', () => {
  const drawn = (id: string) => svg(`<g><path ${id} d="M1 1h5v9z"/><rect id="hull" width="9" height="2"/></g>`);
  const { doc, artboard } = project({ a: drawn('id="sail"') });
  const { id } = layerNamed(doc, 'sail');
  doc.apply(replaceArtwork(doc, artboard('a'), readSvg(drawn('id="jib"'), 'a.svg')));
  expect(doc.find('layer', id)?.name).toBe('jib');
  // Without a name, or with one that only a program gives, it is called as it was.
  for (const none of ['', 'id="Path_12"', 'id="path"', 'id="Vector"', 'id="SVGID_1_"']) {
    doc.apply(replaceArtwork(doc, artboard('a'), readSvg(drawn(none), 'a.svg')));
    expect(doc.find('layer', id)?.name).toBe('jib');
  }
});

test('called as its drawing calls it again, a layer keeps no other name; the project file keeps what is kept', () => {
  const { doc } = project({ a: svg('<path id="sail" d="M1 1h5v9z"/>') });
  const sail = layerNamed(doc, 'sail');
  const other = renamedLayer(sail, 'canvas');
  expect(renamedLayer(other, 'sail')).toEqual(sail);
  expect(renamedLayer(other, 'jib')).toMatchObject({ name: 'jib', drawnName: 'sail' });
  doc.apply({ puts: [other], removes: [] });
  const { records } = readProjectFile(
    writeProjectFile(doc, 'p', () => undefined),
    'p.svg',
  );
  expect(records.find(({ id }) => id === sail.id)).toMatchObject({ name: 'canvas', drawnName: 'sail' });
});

test('whatever comes, no layer is known twice, and all that is put is in the tree', () => {
  fc.assert(
    fc.property(drawings, drawings, (one, other) => {
      const { doc, change } = replaced(file(one), file(other));
      expect(new Set(change.matches.map(({ oldId }) => oldId)).size).toBe(change.matches.length);
      expect(new Set(change.matches.map(({ newId }) => newId)).size).toBe(change.matches.length);
      for (const layer of doc.each('layer'))
        if (layer.parentId !== 'root' && layer.parentId !== 'defs') expect(doc.get(layer.parentId)).toBeDefined();
      // Nothing of the old file is left over, and every reference leads somewhere.
      for (const layer of doc.each('layer'))
        for (const [, id] of Object.values(layer.attrs).flatMap((value) => [...value.matchAll(/url\(#([^)]+)\)/g)]))
          expect(doc.get(id)).toBeDefined();
      expect(doc.children('defs')).toHaveLength(1);
    }),
    runs(40),
  );
});

describe('what hangs on artwork', () => {
  const CARD =
    '<g id="card"><rect id="ground" width="80" height="40" fill="#dfe8e2"/><circle id="sun" cx="60" cy="12" r="5" fill="#e8b93a"/><text id="word" x="4" y="30" font-size="9">Harbour</text></g>';
  const card = (inner: string) => svg(inner, 'width="80" height="40" viewBox="0 0 80 40"');
  const withEdition = () => {
    const { doc, artboard } = project({ card: card(CARD) });
    const ids = { sun: layerNamed(doc, 'sun').id, word: layerNamed(doc, 'word').id };
    doc.apply({
      puts: [
        editionRecord.parse({
          id: 'summer',
          kind: 'edition',
          artboardId: artboard('card').id,
          order: 'a0',
          name: 'summer',
          overrides: { [ids.sun]: { offset: { x: 3, y: 0 } }, [ids.word]: { words: 'Pier' } },
        }),
        sliceRecord.parse({
          id: 'of-sun',
          kind: 'slice',
          order: 'a0',
          name: 'sun',
          source: { kind: 'layer', layerId: ids.sun },
        }),
        { ...layerNamed(doc, 'ground'), locked: true, hold: { x: 'both' } },
        renamedLayer(layerNamed(doc, 'sun'), 'the sun, as we call it'),
      ],
      removes: [],
    });
    return { doc, artboard, ids };
  };

  test.each([
    ['moved and recoloured', CARD.replace('cx="60" cy="12"', 'cx="20" cy="20"').replace('#e8b93a', '#d2452f')],
    ['renamed', CARD.replace('id="sun"', 'id="Ellipse_7"').replace('id="word"', 'id="Text_2"')],
    ['redrawn', CARD.replace('<circle id="sun" cx="60" cy="12" r="5"', '<path id="sun" d="M60 6l5 11h-10z"')],
    ['regrouped', CARD.replace('<circle', '<g id="sky"><circle').replace('fill="#e8b93a"/>', 'fill="#e8b93a"/></g>')],
    ['with more around it', CARD.replace('<circle', '<circle id="moon" cx="10" cy="9" r="3"/><circle')],
  ])('goes on when the drawing comes back %s', (_, drawn) => {
    const { doc, artboard, ids } = withEdition();
    doc.apply(replaceArtwork(doc, artboard('card'), readSvg(card(drawn), 'card.svg')));
    expect(doc.find('layer', ids.sun)?.tag).toMatch(/circle|path/);
    expect(doc.find('layer', ids.sun)?.name).toBe('the sun, as we call it');
    expect(doc.find('layer', ids.word)?.text?.[0].text).toBe('Harbour');
    expect(layerNamed(doc, 'ground')).toMatchObject({ locked: true, hold: { x: 'both' } });
  });

  test('what is gone is named, and what comes new is too', () => {
    const { doc, artboard, ids } = withEdition();
    const { gone, fresh } = replaceArtwork(
      doc,
      artboard('card'),
      readSvg(
        card(
          CARD.replace(
            /<text.*<\/text>/,
            '<image id="photo" width="4" height="4" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="/>',
          ),
        ),
        'card.svg',
      ),
    );
    expect(gone).toEqual([ids.word]);
    expect(fresh).toHaveLength(1);
  });

  test('an edition whose layer is gone is held and told by name, until it is attached anew or taken out', () => {
    const { doc, artboard, ids } = withEdition();
    const [specId] = artboard('card').specIds;
    doc.apply({ puts: [{ ...(doc.find('edition', 'summer') as Edition), specIds: [specId] }], removes: [] });
    const problems = () =>
      planFiles(doc, 'p')
        .files.filter(({ pieceId }) => pieceId === 'summer')
        .map(({ problem }) => problem);
    expect(new Set(problems())).toEqual(new Set([undefined]));
    const drawn = card(CARD.replace(/<text.*<\/text>/, '<rect id="label" x="50" y="30" width="20" height="3"/>'));
    const undo = doc.apply(replaceArtwork(doc, artboard('card'), readSvg(drawn, 'card.svg')));
    expect(new Set(problems())).toEqual(new Set(['one of its differences is for a layer that is gone: word']));
    const label = layerNamed(doc, 'label').id;
    const before = doc.find('edition', 'summer')?.overrides[ids.word];
    expect(before).toEqual({ words: 'Pier', was: 'word' });
    const attached = doc.apply(performRequest(doc, 'attach-differences', { settings: { from: ids.word, to: label } }));
    expect(doc.find('edition', 'summer')?.overrides).toMatchObject({
      [label]: { words: 'Pier' },
      [ids.sun]: { offset: { x: 3, y: 0 } },
    });
    expect(new Set(problems())).toEqual(new Set([undefined]));
    doc.apply(attached);
    doc.apply(undo);
    expect(doc.find('edition', 'summer')?.overrides[ids.word]).toEqual({ words: 'Pier' });
  });

  test('the artboard takes the size of the new file, or keeps its own', () => {
    const { doc, artboard } = withEdition();
    const wide = readSvg(svg(CARD, 'width="160" height="40" viewBox="0 0 160 40"'), 'card.svg');
    const widths = (['new', 'kept'] as const).map((size) => {
      const { puts } = replaceArtwork(doc, artboard('card'), wide, { size });
      return puts.flatMap((record) => (record.kind === 'artboard' ? [record.width] : []));
    });
    expect(widths).toEqual([[160], []]);
  });

  test('where the size is kept, what holds to an edge is at that edge', () => {
    const badge = (width: number) =>
      svg(
        `<rect id="ground" width="${width}" height="40"/><circle id="mark" cx="${width - 10}" cy="20" r="6"/><path id="free" d="M4 4h6v6z"/>`,
        `width="${width}" height="40" viewBox="0 0 ${width} 40"`,
      );
    const { doc, artboard } = project({ badge: badge(80) });
    const hold = (name: string, x: 'right' | 'both') => ({ ...layerNamed(doc, name), hold: { x } });
    doc.apply({ puts: [hold('mark', 'right'), hold('ground', 'both')], removes: [] });
    const before = layersInPlace(doc);
    doc.apply(replaceArtwork(doc, artboard('badge'), readSvg(badge(120), 'badge.svg'), { size: 'kept' }));
    expect(artboard('badge').width).toBe(80);
    const after = layersInPlace(doc);
    for (const name of ['ground', 'mark', 'free'])
      for (const side of ['minX', 'maxX'] as const)
        expect(after[name]?.[side]).toBeCloseTo(before[name]?.[side] ?? 0, 6);
  });
});

/** Where each named layer stands on the plane. */
const layersInPlace = (doc: ProjectDocument) =>
  Object.fromEntries(['ground', 'mark', 'free'].map((name) => [name, layerBounds(doc, layerNamed(doc, name).id)]));

test('a definition that others use stays theirs', () => {
  const { doc, artboard } = project({
    a: svg(`${gradient}<rect id="r" width="9" height="9" fill="url(#shine)"/>`),
    b: svg('<rect id="o" width="9" height="9"/>'),
  });
  const fill = layerNamed(doc, 'r').attrs.fill;
  doc.apply({ puts: [{ ...layerNamed(doc, 'o'), attrs: { ...layerNamed(doc, 'o').attrs, fill } }], removes: [] });
  const before = JSON.stringify(doc.children('defs')[0]);
  doc.apply(
    replaceArtwork(
      doc,
      artboard('a'),
      readSvg(
        svg(
          '<radialGradient id="other"><stop stop-color="#000"/></radialGradient><rect id="r" width="9" height="9" fill="url(#other)"/>',
        ),
        'a.svg',
      ),
    ),
  );
  expect(doc.children('defs').map((each) => JSON.stringify(each))).toContain(before);
  expect(layerNamed(doc, 'r').attrs.fill).not.toBe(fill);
});

test('pairs are the best in total: no other choice adds up to more', () => {
  const candidates = fc.array(fc.record({ one: fc.nat(4), other: fc.nat(4), score: fc.nat(20) }), { maxLength: 14 });
  const best = (list: readonly Candidate[], from = 0, used = new Set<string>()): number => {
    if (from === list.length) return 0;
    const { one, other, score } = list[from];
    const skip = best(list, from + 1, used);
    if (used.has(`l${one}`) || used.has(`r${other}`)) return skip;
    return Math.max(skip, score + best(list, from + 1, new Set([...used, `l${one}`, `r${other}`])));
  };
  fc.assert(
    fc.property(candidates, (list) => {
      const unique = [...new Map(list.map((each) => [`${each.one} ${each.other}`, each])).values()];
      const pairs = assign(unique);
      expect(new Set(pairs.map(({ one }) => one)).size).toBe(pairs.length);
      expect(new Set(pairs.map(({ other }) => other)).size).toBe(pairs.length);
      expect(pairs.reduce((sum, { score }) => sum + score, 0)).toBe(best(unique));
    }),
    runs(200),
  );
});

test('two thousand layers without a name, all moved and recoloured, are known again', () => {
  const many = (dx: number, colour: string) =>
    svg(
      Array.from(
        { length: 2000 },
        (_, n) =>
          `<path d="M${(n % 50) * 20 + dx} ${Math.floor(n / 50) * 20}h${3 + (n % 7)}v${2 + (n % 11)}l-1 ${1 + (n % 13)}z" fill="${colour}"/>`,
      ).join(''),
      'width="1000" height="800" viewBox="0 0 1000 800"',
    );
  const read = (text: string) => readSvg(text, 'many.svg');
  const [one, other] = [read(many(0, '#0c6a53')), read(many(2, '#d2452f'))];
  const tree = ({ layers, rootId }: typeof one) => ({
    doc: new ProjectDocument(layers),
    topIds: [rootId],
    origin: { x: 0, y: 0 },
  });
  const matches = matchLayers(tree(one), tree(other));
  const place = new Map(one.layers.map(({ id }, i) => [id, i]));
  const now = new Map(other.layers.map(({ id }, i) => [id, i]));
  expect(matches).toHaveLength(2001);
  expect(matches.filter(({ oldId, newId }) => place.get(oldId) !== now.get(newId))).toEqual([]);
});
