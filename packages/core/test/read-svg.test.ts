import { readSvg } from '../src';
import { named, svg, TINY_PNG, tagsOf, told } from './fixtures';

const read = (text: string) => readSvg(text, 'art.svg');

describe('names', () => {
  test.each([
    ['id', '<path id="left-leaf" d="M0 0h1"/>', 'left-leaf'],
    ['id as some tools escape it', '<path id="Left_x0020_leaf_x31_" d="M0 0h1"/>', 'Left leaf1'],
    ['data-name before id', '<path id="a1" data-name="Left leaf" d="M0 0h1"/>', 'Left leaf'],
    ['aria-label', '<path aria-label="Leaf" d="M0 0h1"/>', 'Leaf'],
    ['title child before id', '<g id="a1"><title>Leaf &amp; stem</title><path d="M0 0h1"/></g>', 'Leaf & stem'],
    [
      'a label of any other namespace',
      '<g xmlns:tool="urn:some-tool" id="a1" tool:label="Leaf" tool:groupmode="layer"><path d="M0 0h1"/></g>',
      'Leaf',
    ],
  ])('%s', (_, inner, name) => {
    expect(named(read(svg(inner)), name)).toBeDefined();
  });

  test('attributes of other namespaces do not survive', () => {
    const artwork = read(svg('<path xmlns:tool="urn:some-tool" tool:label="Leaf" tool:secret="1" d="M0 0h1"/>'));
    expect(JSON.stringify(artwork.layers)).not.toContain('secret');
  });
});

describe('structure', () => {
  test('groups stay groups, in order', () => {
    const artwork = read(
      svg('<g id="outer"><g id="inner"><rect id="a" width="1" height="1"/></g><circle id="b" r="1"/></g>'),
    );
    const outer = named(artwork, 'outer');
    expect(named(artwork, 'inner')?.parentId).toBe(outer?.id);
    const kids = artwork.layers
      .filter((layer) => layer.parentId === outer?.id)
      .sort((a, b) => (a.order < b.order ? -1 : 1));
    expect(kids.map((layer) => layer.name)).toEqual(['inner', 'b']);
  });

  test('attributes of the root reach the group that holds the artwork', () => {
    const artwork = read(
      svg('<path d="M0 0h4"/>', 'viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="2"'),
    );
    expect(artwork.layers.find((layer) => layer.id === artwork.rootId)?.attrs).toMatchObject({
      fill: 'none',
      stroke: 'currentColor',
      'stroke-width': '2',
    });
  });

  test('every file has ids of its own, and references follow', () => {
    const text = svg(
      '<defs><linearGradient id="g"><stop offset="0" stop-color="#f00"/></linearGradient></defs><rect width="4" height="4" fill="url(#g)"/>',
    );
    const [one, other] = [read(text), read(text)];
    const gradient = one.layers.find((layer) => layer.tag === 'linearGradient');
    expect(one.layers.find((layer) => layer.tag === 'rect')?.attrs.fill).toBe(`url(#${gradient?.id})`);
    expect(new Set([...one.layers, ...other.layers].map((layer) => layer.id)).size).toBe(
      one.layers.length + other.layers.length,
    );
  });

  test('hidden elements are kept as hidden layers', () => {
    expect(named(read(svg('<path id="ghost" style="display:none" d="M0 0h1"/>')), 'ghost')?.shown).toBe(false);
  });

  test('use becomes copies, with place and own attributes', () => {
    const artwork = read(
      svg('<defs><path id="dot" d="M0 0h1"/></defs><use xlink:href="#dot" x="3" y="4" fill="#f00"/><use href="#dot"/>'),
    );
    expect(tagsOf(artwork).filter((tag) => tag === 'path')).toHaveLength(2);
    expect(tagsOf(artwork)).not.toContain('use');
    expect(artwork.layers.some((layer) => layer.attrs.fill === '#f00')).toBe(true);
    expect(artwork.layers.some((layer) => layer.transform?.[4] === 3 && layer.transform[5] === 4)).toBe(true);
  });

  test.each([
    ['font-family', 'serif'],
    ['font-size', '9px'],
    ['font-weight', '700'],
    ['font-style', 'italic'],
    ['font-variant', 'small-caps'],
    ['letter-spacing', '2'],
    ['word-spacing', '2'],
    ['text-anchor', 'middle'],
    ['dominant-baseline', 'middle'],
    ['direction', 'rtl'],
    ['writing-mode', 'vertical-rl'],
  ])('letters that clip have %s from around the clip, as letters that are drawn do', (name, value) => {
    const text = '<text x="4" y="9">ab</text>';
    const letters = (inner: string) => {
      const around = `<g style="${name}:${value}">${inner}</g><rect width="9" height="9" clip-path="url(#c)"/>`;
      const { layers } = read(svg(around));
      const at = layers.find(({ tag }) => tag === 'text');
      const parents = layers.filter(({ id }) => id === at?.parentId);
      return [...(at ? [at] : []), ...parents].flatMap(({ attrs }) => attrs[name] ?? [])[0];
    };
    expect(letters(text)).toBeDefined();
    expect(letters(`<clipPath id="c">${text}</clipPath>`)).toBe(letters(text));
  });

  test('a symbol is scaled to its use and clipped to it', () => {
    const artwork = read(
      svg(
        '<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol><use href="#s" x="2" y="2" width="20" height="20"/>',
      ),
    );
    expect(artwork.layers.some((layer) => layer.transform?.[0] === 2 && layer.transform[4] === 2)).toBe(true);
    expect(tagsOf(artwork)).toContain('clipPath');
  });

  test('a nested svg keeps its viewBox and preserveAspectRatio', () => {
    const artwork = read(
      svg(
        '<svg x="4" y="4" width="16" height="8" viewBox="0 0 4 4" preserveAspectRatio="xMaxYMid meet"><rect width="4" height="4"/></svg>',
      ),
    );
    expect(artwork.layers.find((layer) => layer.transform)?.transform).toEqual([2, 0, 0, 2, 12, 4]);
  });

  test('switch takes the real artwork, not the foreignObject', () => {
    const artwork = read(
      svg(
        '<switch><foreignObject requiredExtensions="x" width="1" height="1"/><g id="real"><path d="M0 0h1"/></g></switch>',
      ),
    );
    expect(named(artwork, 'real')).toBeDefined();
    expect(tagsOf(artwork)).not.toContain('foreignObject');
  });

  test('pictures inside the file become blobs, and the same one is kept once', () => {
    const image = `<image width="1" height="1" href="data:image/png;base64,${TINY_PNG}"/>`;
    const artwork = read(svg(image + image));
    expect(artwork.blobs).toHaveLength(1);
    expect(artwork.layers.filter((layer) => layer.attrs.href === `blob:${artwork.blobs[0].hash}`)).toHaveLength(2);
  });

  test('text keeps its runs', () => {
    const artwork = read(svg('<text x="1" y="9">low <tspan font-weight="700">tide</tspan> now</text>'));
    expect(artwork.layers.find((layer) => layer.tag === 'text')?.text).toEqual([
      { text: 'low ', attrs: {} },
      { text: 'tide', attrs: { 'font-weight': '700' } },
      { text: ' now', attrs: {} },
    ]);
  });
});

describe('style sheets', () => {
  test('classes, descendants and specificity end up as attributes', () => {
    const artwork = read(
      svg(
        '<style>.a{fill:#f00;stroke-width:2px} g .a{fill:#0f0} #b{fill:#00f !important}</style><g><path id="x" class="a" d="M0 0h1"/><path id="b" class="a" style="fill:#fff" d="M0 0h1"/></g>',
      ),
    );
    expect(named(artwork, 'x')?.attrs).toMatchObject({ fill: '#0f0', 'stroke-width': '2' });
    expect(named(artwork, 'b')?.attrs.fill).toBe('#00f');
    expect(JSON.stringify(artwork.layers)).not.toContain('class');
  });

  test('a style attribute wins over the attribute', () => {
    expect(
      named(read(svg('<path id="x" fill="#111" style="fill : #222; opacity:.5" d="M0 0h1"/>')), 'x'),
    ).toMatchObject({ attrs: { fill: '#222' }, opacity: 0.5 });
  });
});

describe('size', () => {
  test.each([
    ['width and height', 'width="20" height="10"', 20, 10],
    ['viewBox only', 'viewBox="0 0 32 16"', 32, 16],
    ['width and viewBox', 'width="64" viewBox="0 0 32 16"', 64, 32],
    ['percentages count as absent', 'width="100%" height="100%" viewBox="0 0 32 16"', 32, 16],
    ['millimetres', 'width="25.4mm" height="12.7mm" viewBox="0 0 10 5"', 96, 48],
    ['points', 'width="72pt" height="36pt"', 96, 48],
  ])('%s', (_, attrs, width, height) => {
    const artwork = read(svg('<path d="M0 0h1"/>', attrs));
    expect([artwork.width, artwork.height]).toEqual([expect.closeTo(width), expect.closeTo(height)]);
  });

  test('nothing said: the bounds of the artwork, moved to the corner', () => {
    const artwork = read(svg('<rect x="10" y="20" width="30" height="15" stroke="#000" stroke-width="2"/>', ''));
    expect([artwork.width, artwork.height]).toEqual([32, 17]);
    expect(artwork.layers.find((layer) => layer.id === artwork.rootId)?.transform).toEqual([1, 0, 0, 1, -9, -19]);
  });

  test('the viewBox maps onto width and height by preserveAspectRatio', () => {
    const artwork = read(
      svg('<path d="M0 0h1"/>', 'width="48" height="24" viewBox="0 0 24 24" preserveAspectRatio="xMinYMid"'),
    );
    expect(artwork.layers.find((layer) => layer.id === artwork.rootId)?.transform).toBeUndefined();
  });

  test('percentages inside measure against the viewBox', () => {
    expect(
      read(svg('<rect width="50%" height="25%"/>', 'viewBox="0 0 40 80"')).layers.find((layer) => layer.tag === 'rect')
        ?.attrs,
    ).toMatchObject({ width: '20', height: '20' });
  });

  test('bounding-box units of gradients stay shares', () => {
    const artwork = read(
      svg(
        '<linearGradient id="g" x1="0%" x2="100%"><stop offset="0"/></linearGradient><rect width="1" height="1" fill="url(#g)"/>',
      ),
    );
    expect(artwork.layers.find((layer) => layer.tag === 'linearGradient')?.attrs).toMatchObject({ x1: '0', x2: '1' });
  });
});

describe('encodings', () => {
  test('byte order marks and namespaces as entities, as drawing programs write them', () => {
    const text =
      '<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg">]><svg xmlns="&ns;" viewBox="0 0 8 8"><path d="M0 0h1"/></svg>';
    expect(tagsOf(read(`\ufeff${text}`))).toContain('path');
    expect(tagsOf(readSvg(new Uint8Array(Buffer.from(`\ufeff${text}`, 'utf16le')), 'art.svg'))).toContain('path');
  });

  test('clean artwork reports nothing', () => {
    expect(told(read(svg('<g fill="none"><path d="M0 0h1"/></g>')))).toEqual([]);
  });
});
