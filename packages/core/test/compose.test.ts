import { shippedFonts } from '../../render/src/shipped-fonts';
import {
  artboardRecord,
  Composer,
  editionRecord,
  type LayerOverride,
  NO_FONTS,
  newId,
  type Output,
  outputRecord,
  type PlannedFile,
  type ProjectDocument,
  type ProjectRecord,
  parseXml,
  planFiles,
  sliceRecord,
} from '../src';
import { project, svg } from './fixtures';

const sources = { fonts: NO_FONTS, pictures: () => undefined };

/** The composed SVG of one file of a project. */
function compose(doc: ProjectDocument, pick: (file: PlannedFile) => boolean = () => true, withFonts = false): string {
  const composer = new Composer(doc, withFonts ? { ...sources, fonts: shippedFonts(__filename) } : sources);
  const file = planFiles(doc, 'p').files.find(pick);
  if (!file) throw new Error('no such file');
  const { svg: text } = composer.compose(file);
  parseXml(text, 'composed.svg');
  return text;
}

const of = (format: string) => (file: PlannedFile) => file.format === format;

describe('what is in a file', () => {
  test('only the layers that touch the piece', () => {
    const { doc } = project({ anchor: svg('<path id="a" d="M1 1h4"/>'), boat: svg('<path id="b" d="M2 2h9"/>') });
    const text = compose(doc, (file) => file.path === 'boat.svg');
    expect(text).toContain('M2 2h9');
    expect(text).not.toContain('M1 1h4');
  });

  test('moved to the corner, without a trace of where it lies', () => {
    const { doc } = project({ anchor: svg('<path d="M1 1h4"/>'), boat: svg('<path d="M2 2h9"/>') });
    expect(compose(doc, (file) => file.path === 'boat.svg')).toBe(
      '<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24"><path d="M2 2h9"/></svg>',
    );
  });

  test('hidden and bench-only layers are left out', () => {
    const { doc } = project({
      anchor: svg('<path id="guide" d="M1 1h4"/><path id="ghost" d="M3 3h4"/><path d="M5 5h4"/>'),
    });
    const [guide, ghost] = ['guide', 'ghost'].map((name) => doc.list('layer').find((layer) => layer.name === name));
    if (!guide || !ghost) throw new Error('no layers');
    doc.apply({
      puts: [
        { ...guide, benchOnly: true },
        { ...ghost, shown: false },
      ],
      removes: [],
    });
    expect(compose(doc)).not.toMatch(/M1 1|M3 3/);
  });

  test('only the definitions in use, with what they took from others', () => {
    const { doc } = project({
      a: svg(
        '<defs><linearGradient id="base"><stop offset="0" stop-color="#f00"/></linearGradient><linearGradient id="used" href="#base" x2="5"/><linearGradient id="spare"><stop offset="0" stop-color="#0f0"/></linearGradient></defs><rect width="9" height="9" fill="url(#used)"/>',
      ),
    });
    const text = compose(doc);
    expect(text.match(/<linearGradient/g)).toHaveLength(1);
    expect(text).toContain('stop-color="#f00"');
    expect(text).not.toContain('#0f0');
    const id = /fill="url\(#([^)]+)\)"/.exec(text)?.[1];
    expect(text).toContain(`<linearGradient id="${id}"`);
  });

  test('record ids never show, so the same artwork composes to the same text', () => {
    const art = {
      a: svg(
        '<clipPath id="c"><rect width="5" height="5"/></clipPath><g clip-path="url(#c)"><rect width="9" height="9"/></g>',
      ),
    };
    expect(compose(project(art).doc)).toBe(compose(project(art).doc));
  });

  test('what a clip holds together is written whole', () => {
    const { doc, artboard } = project({
      a: svg(
        '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath><g clip-path="url(#c)"><rect id="in" width="9" height="9"/><rect id="out" x="200" width="9" height="9"/></g>',
      ),
    });
    expect(artboard('a').width).toBe(24);
    expect(compose(doc)).toContain('x="200"');
  });
});

describe('colour', () => {
  const leaf = svg('<g color="#0c6a53"><path stroke="currentColor" d="M0 0h9"/></g>');

  test('currentColor stays in SVG and becomes a colour elsewhere', () => {
    const { doc } = project({ a: leaf });
    expect(compose(doc, of('svg'))).toContain('currentColor');
    expect(compose(doc, of('png'))).toContain('stroke="#0c6a53"');
  });

  test('currentColor without a colour is black', () => {
    expect(compose(project({ a: svg('<path stroke="currentColor" d="M0 0h9"/>') }).doc, of('png'))).toContain(
      'stroke="#000"',
    );
  });

  const recoloured = (inner: string, recolour: Output['recolour']) => {
    const { doc, outputs } = project({ a: svg(inner) });
    doc.apply({ puts: [outputRecord.parse({ ...outputs[1], recolour })], removes: [] });
    return compose(doc, (file) => file.outputId === outputs[1].id);
  };

  test('all white keeps transparency and leaves none alone', () => {
    const text = recoloured('<path fill="#f00" fill-opacity=".5" stroke="none" d="M0 0h9v9z"/><path d="M1 1h3v3z"/>', {
      kind: 'white',
    });
    expect(text).toContain('fill="#ffffff" fill-opacity=".5" stroke="none"');
    expect(text).toContain('<g fill="#ffffff">');
  });

  test('gradient stops are recoloured, masks never', () => {
    const text = recoloured(
      '<linearGradient id="g"><stop offset="0" stop-color="red"/></linearGradient><mask id="m"><rect width="9" height="9" fill="#fff"/></mask><rect width="9" height="9" fill="url(#g)" mask="url(#m)"/>',
      { kind: 'black' },
    );
    expect(text).toContain('stop-color="#000000"');
    expect(/<mask[\s\S]*?fill="#fff"/.test(text)).toBe(true);
  });

  test('grey is by luminance, exact for greys', () => {
    expect(recoloured('<path fill="#808080" d="M0 0h9v9z"/>', { kind: 'grey' })).toContain('#808080');
    expect(recoloured('<path fill="#00ff00" d="M0 0h9v9z"/>', { kind: 'grey' })).toContain('#dcdcdc');
  });

  test('a map turns each colour into its own, or takes it away', () => {
    const text = recoloured('<path fill="#ABC" d="M0 0h9v9z"/><path fill="rgb(1,2,3)" d="M1 0h9v9z"/>', {
      kind: 'map',
      colours: [
        { from: '#aabbcc', to: '#010203' },
        { from: '#010203', to: 'none' },
      ],
    });
    expect(text).toContain('fill="#010203"');
    expect(text).toContain('fill="none"');
  });
});

describe('grounds and boxes', () => {
  const withOutput = (fields: Partial<Output>, ground: string | null = null) => {
    const { doc, outputs, artboard } = project({ a: svg('<path d="M0 0h9v9z"/>', 'width="20" height="10"') });
    doc.apply({
      puts: [outputRecord.parse({ ...outputs[1], ...fields }), { ...artboard('a'), background: ground }],
      removes: [],
    });
    return compose(doc, (file) => file.outputId === outputs[1].id);
  };

  test('a JPEG always has a ground', () =>
    expect(withOutput({ settings: { format: 'jpeg', quality: 80, chroma: 'auto' } })).toContain(
      '<rect width="20" height="10" fill="#ffffff"/>',
    ));
  test('the artboard lends its ground', () => expect(withOutput({}, '#123456')).toContain('fill="#123456"'));
  test('an output may do without it', () =>
    expect(withOutput({ background: 'none' }, '#123456')).not.toContain('#123456'));
  test('an output may have its own', () =>
    expect(withOutput({ background: '#abcdef' }, '#123456')).toContain('#abcdef'));
  test('fitted in a box: centred, the ground fills the box, neighbours are cut off', () => {
    const text = withOutput({ size: { kind: 'box', widthPx: 40, heightPx: 40 }, background: '#abcdef' });
    expect(text).toContain('width="40" height="40" viewBox="0 -5 20 20"');
    expect(text).toContain('<rect y="-5" width="20" height="20" fill="#abcdef"/>');
    expect(text).toContain('clip-path');
  });
});

describe('text', () => {
  const label = svg(
    '<text id="label" x="2" y="14" font-family="Schibsted Grotesk" font-size="10" fill="#f00">tide <tspan fill="#00f">low</tspan></text>',
  );
  test('becomes paths, run by run, with their own paint', () => {
    const text = compose(project({ a: label }).doc, () => true, true);
    expect(text).not.toContain('<text');
    expect(text.match(/<path/g)).toHaveLength(2);
    expect(text).toContain('fill="#00f"');
    expect(text).not.toContain('font-family');
  });

  test('a missing family is noticed', () => {
    const { doc } = project({ a: label.replace('Schibsted Grotesk', 'Harbourmaster') });
    const composer = new Composer(doc, { ...sources, fonts: shippedFonts(__filename) });
    const piece = composer.piece(planFiles(doc, 'p').files[0].pieceId);
    if (!piece) throw new Error('no piece');
    const { noticed } = composer.content(piece, doc.list('output')[0]);
    expect([...noticed.missingFonts]).toEqual(['Harbourmaster']);
    expect(noticed.liveText).toBe(true);
  });
});

describe('ids', () => {
  test('layer names become ids when kept, each once', () => {
    const { doc, outputs } = project({
      a: svg(
        '<g id="leaf"><path data-name="left leaf" d="M0 0h9v9z"/><path data-name="left leaf" d="M1 0h9v9z"/><path data-name="3rd" d="M2 0h9v9z"/></g>',
      ),
    });
    doc.apply({
      puts: [
        {
          ...outputs[0],
          settings: {
            format: 'svg',
            ids: 'kept',
            decimals: 3,
            layout: 'oneLine',
            dimensions: true,
            shapes: 'drawn',
            leastMm: 0.5,
          },
        },
      ],
      removes: [],
    });
    const text = compose(doc, of('svg'));
    for (const id of ['leaf', 'left-leaf', 'left-leaf-2', '_3rd']) expect(text).toContain(`id="${id}"`);
  });
});

describe('slices', () => {
  const withSlice = (fields: Record<string, unknown>) => {
    const made = project({
      a: svg(
        '<g id="sail"><rect x="2" y="2" width="4" height="4"/></g><rect id="hull" x="10" y="10" width="6" height="6" fill="#f00"/>',
      ),
      b: svg('<path d="M7 7h9"/>'),
    });
    const { doc } = made;
    const sail = doc.list('layer').find((layer) => layer.name === 'sail');
    const slice = sliceRecord.parse({
      id: newId(),
      kind: 'slice',
      order: 'a0',
      name: 's',
      specIds: [doc.list('spec')[0].id],
      source: { kind: 'layer', layerId: sail?.id },
      ...fields,
    });
    doc.apply({ puts: [slice], removes: [] });
    return { ...made, slice, sail, text: () => compose(doc, (file) => file.pieceId === slice.id) };
  };

  test('of a layer: its bounds and nothing else', () => {
    const { text } = withSlice({});
    expect(text()).toContain('viewBox="0 0 4 4"');
    expect(text()).not.toContain('#f00');
  });

  test('its margin', () => expect(withSlice({ margin: 3 }).text()).toContain('viewBox="0 0 10 10"'));

  test('it follows the layer when that moves', () => {
    const { doc, sail, slice } = withSlice({});
    if (!sail) throw new Error('no sail');
    doc.apply({ puts: [{ ...sail, transform: [2, 0, 0, 2, 0, 0] }], removes: [] });
    expect(planFiles(doc, 'p').pieces.find((piece) => piece.id === slice.id)?.region).toMatchObject({ x: 4, width: 8 });
  });

  test('it says when its layer was deleted', () => {
    const { doc, sail, slice } = withSlice({});
    doc.apply({ puts: [], removes: [sail?.id ?? ''] });
    const plan = planFiles(doc, 'p');
    expect(plan.pieces.find((piece) => piece.id === slice.id)?.problem).toBe('the layer it follows was deleted');
    expect(plan.troubled.length).toBe(3);
  });

  test('everything, and several artboards as one', () => {
    const { doc } = withSlice({ source: { kind: 'everything' } });
    const boards = doc.list('artboard');
    doc.apply({
      puts: [{ ...doc.list('slice')[0], source: { kind: 'artboards', artboardIds: boards.map((board) => board.id) } }],
      removes: [],
    });
    const text = compose(doc, (file) => file.pieceId === doc.list('slice')[0].id);
    expect(text).toContain('M7 7h9');
    expect(text).toContain('#f00');
  });

  test('an ellipse clips', () =>
    expect(withSlice({ shape: { kind: 'ellipse' } }).text()).toContain('<ellipse cx="2" cy="2" rx="2" ry="2"/>'));

  test('a region takes the grounds of artboards along', () => {
    const { doc, artboard } = withSlice({ source: { kind: 'region', x: 0, y: 0, width: 5, height: 5 } });
    doc.apply({ puts: [{ ...artboard('a'), background: '#abcdef' }], removes: [] });
    expect(compose(doc, (file) => file.pieceId === doc.list('slice')[0].id)).toContain('#abcdef');
  });
});

describe('editions and variants', () => {
  const card = () => {
    const made = project({
      card: svg(
        '<rect id="ground" width="24" height="24" fill="#eee"/><g id="word" fill="#123456"><path d="M1 1h3v3z"/></g><g id="other" display="none"><path d="M5 5h3v3z"/></g>',
      ),
    });
    const layer = (name: string) => made.doc.list('layer').find((each) => each.name === name)?.id ?? '';
    const edition = (overrides: Record<string, LayerOverride>) => {
      const record = editionRecord.parse({
        id: newId(),
        kind: 'edition',
        artboardId: made.artboard('card').id,
        order: 'a0',
        name: 'e',
        overrides,
        specIds: [made.doc.list('spec')[0].id],
      });
      made.doc.apply({ puts: [record], removes: [] });
      return compose(made.doc, (file) => file.pieceId === record.id && file.format === 'svg');
    };
    return { ...made, layer, edition };
  };

  test('an edition that holds nothing is the base', () => {
    const { doc, edition } = card();
    expect(edition({})).toBe(compose(doc, (file) => file.path === 'card.svg'));
  });

  test('shows, hides, moves, tints and fades by layer', () => {
    const { layer, edition } = card();
    const text = edition({
      [layer('word')]: { shown: false },
      [layer('other')]: { shown: true, offset: { x: 2, y: 3 }, tint: '#abcdef' },
      [layer('ground')]: { opacity: 0.5 },
    });
    expect(text).not.toContain('M1 1');
    expect(text).toMatch(/<g fill="#abcdef" transform="translate\(2 3\)"><path d="M5 5h3v3z"\/><\/g>/);
    expect(text).toContain('fill="#eee" opacity="0.5"');
  });

  test('an offset counts in px of the Bench inside a scaled group', () => {
    const { doc, layer, edition } = card();
    const root = doc.children('root')[0];
    doc.apply({ puts: [{ ...root, transform: [2, 0, 0, 2, 0, 0] }], removes: [] });
    expect(edition({ [layer('word')]: { offset: { x: 4, y: 0 } } })).toContain('translate(2 0)');
  });

  test('a variant shows its source recoloured, wherever it stands', () => {
    const { doc, artboard } = card();
    const source = artboard('card');
    const variant = artboardRecord.parse({
      ...source,
      id: newId(),
      order: 'b00',
      name: 'card-white',
      x: 500,
      follows: { artboardId: source.id, rule: { kind: 'white' } },
    });
    doc.apply({ puts: [variant], removes: [] });
    const text = compose(doc, (file) => file.pieceId === variant.id);
    expect(text).toContain('viewBox="0 0 24 24"');
    expect(text).not.toMatch(/#eee|#123456/);
    const source2 = doc.find('artboard', source.id) as ProjectRecord;
    expect(source2).toEqual(source);
  });
});

describe('keys', () => {
  test('equal for equal files, another for each thing that decides bytes', () => {
    const { doc, outputs, artboard } = project({ a: svg('<path d="M0 0h9v9z"/>') });
    const composer = new Composer(doc, sources);
    const keyOf = () => composer.key(planFiles(doc, 'p').files[1]);
    const first = keyOf();
    const changes: ProjectRecord[] = [
      { ...outputs[1], size: { kind: 'factor', factor: 2 } },
      { ...outputs[1], settings: { format: 'png', effort: 'smaller' } },
      { ...outputs[1], background: '#ffffff' },
      { ...artboard('a'), width: 25 },
      { ...doc.children('root')[0], opacity: 0.5 },
    ];
    const seen = new Set([first]);
    for (const change of changes) {
      const undo = doc.apply({ puts: [change], removes: [] });
      seen.add(keyOf());
      doc.apply(undo);
    }
    expect(seen.size).toBe(changes.length + 1);
    doc.apply({ puts: [{ ...outputs[1], suffix: '-x', folder: 'y' }], removes: [] });
    expect(keyOf()).toBe(first);
  });
});
