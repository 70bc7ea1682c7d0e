import { LIMITS, readSvg } from '../src';
import { refusalOf, svg, tagsOf, told } from './fixtures';

const read = (text: string) => readSvg(text, 'art.svg');
const refused = (text: string | Uint8Array) => refusalOf(() => readSvg(text, 'art.svg'));

describe('refused with a reason', () => {
  test('not SVG at all', () => {
    expect(refused('hello').message).toBe('art.svg is not SVG: it does not start with "<"');
    expect(refused('<html xmlns="http://www.w3.org/1999/xhtml"/>').message).toContain('its first element is <html>');
    expect(refused(Uint8Array.from([0x25, 0x50, 0x44, 0x46])).code).toBe('svg.not');
  });

  test('broken XML, with line and column', () => {
    const problem = refused('<svg xmlns="http://www.w3.org/2000/svg">\n  <path d="M0 0">\n</svg>');
    expect(problem).toMatchObject({ code: 'svg.xml', line: 3 });
    expect(problem.message).toMatch(/line 3, column \d+/);
  });

  test.each([
    ['an empty file', new Uint8Array()],
    ['white space only', '  \n'],
  ])('%s', (_, input) => expect(refused(input).code).toBe('svg.empty'));

  test('a file that is too large, before it is parsed', () => {
    expect(refused(new Uint8Array(60 * 1024 * 1024)).message).toContain('60 MB');
  });

  test('too many elements', () => {
    expect(refused(svg('<g/>'.repeat(1_000_000))).message).toContain('200,000 elements');
  });

  test('groups nested too deep', () => {
    expect(refused(svg('<g>'.repeat(5000) + '</g>'.repeat(5000))).code).toBe('svg.depth');
  });

  test('an entity bomb', () => {
    const levels = Array.from(
      { length: 10 },
      (_, i) => `<!ENTITY e${i} "${i === 0 ? 'lollollol!' : `&e${i - 1};`.repeat(10)}">`,
    ).join('');
    expect(
      refused(`<!DOCTYPE svg [${levels}]><svg xmlns="http://www.w3.org/2000/svg"><text>&e9;</text></svg>`).code,
    ).toBe('svg.entities');
  });

  test('an entity that is used until it is too much', () => {
    const doctype = `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}">]>`;
    expect(
      refused(`${doctype}<svg xmlns="http://www.w3.org/2000/svg"><text>${'&a;'.repeat(2000)}</text></svg>`).code,
    ).toBe('svg.entities');
  });

  test('entities that contain themselves', () => {
    expect(
      refused(
        '<!DOCTYPE svg [<!ENTITY a "&b;"><!ENTITY b "&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>',
      ).code,
    ).toBe('svg.entities');
  });

  test('a use bomb', () => {
    let defs = '<g id="u0"><path d="M0 0h1"/></g>';
    for (let i = 1; i < 8; i++) defs += `<g id="u${i}">${`<use href="#u${i - 1}"/>`.repeat(10)}</g>`;
    expect(refused(svg(`<defs>${defs}</defs><use href="#u7"/>`)).code).toBe('svg.use');
  });

  test('a use that contains itself', () => {
    expect(refused(svg('<g id="a"><use href="#a"/></g>')).message).toContain('contains itself');
  });

  test.each(['NaN', '-5', '0', 'Infinity', '1e999', 'abc'])('a width of %s', (width) => {
    expect(refused(svg('', `width="${width}" height="4"`))).toMatchObject({
      code: 'svg.size',
      accepted: expect.stringContaining('above 0'),
    });
  });

  test('a width of a million', () => {
    expect(refused(svg('', 'width="1000000" height="4"')).message).toContain('1000000 px');
  });
});

const pictureOf = (inner: string) =>
  `<image width="4" height="4" href="data:image/svg+xml,${encodeURIComponent(svg(inner))}"/>`;

test('pictures of SVG in each other end at a depth, and count as the elements they hold', () => {
  let deep = '<rect width="4" height="4"/>';
  for (let i = 0; i < 5; i++) deep = pictureOf(deep);
  expect(told(read(svg(deep)))).toContain('a picture that is not PNG, JPEG, WebP, GIF or SVG');
  const many = pictureOf('<rect width="4" height="4"/>'.repeat(2000)).replace('<image', '<image id="i"');
  expect(refused(svg(`<defs>${many}</defs>${'<use href="#i"/>'.repeat(200)}`)).code).toBe('svg.use');
});

describe('dropped and told, never fetched', () => {
  test.each([
    ['scripts', '<script>alert(1)</script>', 'a script'],
    ['event attributes', '<path onclick="alert(1)" d="M0 0h1"/>', 'an event attribute (script)'],
    ['javascript: links', '<a href="javascript:alert(1)"><path d="M0 0h1"/></a>', 'a script'],
    [
      'foreignObject',
      '<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"/></foreignObject>',
      'a foreignObject (web page content)',
    ],
    [
      'pictures by http',
      '<image width="1" height="1" href="http://example.invalid/x.png"/>',
      'a picture from outside the file',
    ],
    [
      'pictures by file',
      '<image width="1" height="1" xlink:href="file:///etc/passwd"/>',
      'a picture from outside the file',
    ],
    [
      'pictures by absolute path',
      '<image width="1" height="1" href="/etc/passwd"/>',
      'a picture from outside the file',
    ],
    [
      'pictures of another kind',
      '<image width="1" height="1" href="data:image/tiff;base64,AAAA"/>',
      'a picture that is not PNG, JPEG, WebP, GIF or SVG',
    ],
    [
      'pictures of SVG that are none',
      '<image width="1" height="1" href="data:image/svg+xml;base64,AAAA"/>',
      'a picture of SVG that cannot be read',
    ],
    [
      'pictures of SVG with a broken address',
      '<image width="1" height="1" href="data:image/svg+xml,%E0%A4%A"/>',
      'a picture of SVG that cannot be read',
    ],
    [
      'pictures that are no picture',
      '<image width="1" height="1" href="data:image/png;base64,AAAA"/>',
      'a picture whose bytes are not a picture',
    ],
    [
      'paint from elsewhere',
      '<path fill="url(http://example.invalid/#g)" d="M0 0h1"/>',
      'a reference to something outside the file',
    ],
    ['use from elsewhere', '<use href="http://example.invalid/a.svg#b"/>', 'a reference to something outside the file'],
    [
      'imported style sheets',
      '<style>@import url(http://example.invalid/a.css); path{fill:#f00}</style><path d="M0 0h1"/>',
      'a style sheet from outside the file',
    ],
    [
      'fonts that are loaded',
      '<style>@font-face{font-family:x;src:url(http://example.invalid/x.woff)} path{fill:#f00}</style><path d="M0 0h1"/>',
      'a font the file brings along or loads',
    ],
    [
      'urls in style sheets',
      '<style>path{fill:url(http://example.invalid/#g)}</style><path d="M0 0h1"/>',
      'a reference to something outside the file',
    ],
    ['animations', '<rect width="1" height="1"><animate attributeName="x" to="5"/></rect>', 'an animation'],
    ['NaN in a transform', '<path transform="translate(NaN 0)" d="M0 0h1"/>', 'a transform with NaN or Infinity'],
    ['negative radius', '<circle r="-4"/>', 'a negative r'],
    [
      'a stroke width that is no number',
      '<path stroke-width="fat" d="M0 0h1"/>',
      'a stroke-width that is not a number ("fat")',
    ],
  ])('%s, as they are and in a picture of SVG', (_, inner, what) => {
    for (const artwork of [read(svg(inner)), read(svg(pictureOf(inner)))]) {
      expect(told(artwork)).toContain(what);
      const kept = JSON.stringify(artwork.layers);
      for (const trace of ['alert', 'example.invalid', 'passwd', 'onclick', 'NaN']) expect(kept).not.toContain(trace);
    }
  });

  test('external entities are never read', () => {
    expect(
      refused(
        '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><text>&x;</text></svg>',
      ).code,
    ).toBe('svg.xml');
  });

  test('elements of an entity pass where all others do, and only where elements may be', () => {
    const withEntity = (inner: string) =>
      read(
        `<!DOCTYPE svg [<!ENTITY x "<script>alert(1)</script><path d='M0 0h1v1z' onclick='alert(2)'/>">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4">${inner}</svg>`,
      );
    const artwork = withEntity('<g>&x;</g>');
    expect(tagsOf(artwork)).toContain('path');
    expect(told(artwork)).toContain('a script');
    expect(JSON.stringify(artwork.layers)).not.toContain('alert');
    const notThere = withEntity('<!-- &x; --><title><![CDATA[&x;]]></title><?a &x;?><g id="a>b"/>');
    expect(tagsOf(notThere)).not.toContain('path');
  });

  test('entities with elements that grow, and that never end', () => {
    const head = '<!DOCTYPE svg [<!ENTITY a "<g/><g/><g/><g/><g/><g/><g/><g/><g/><g/>">';
    const bomb = `${head}${[...'bcdefgh'].map((name, i) => `<!ENTITY ${name} "${`&${'abcdefg'[i]};`.repeat(10)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg">&h;</svg>`;
    expect(refused(bomb).code).toBe('svg.entities');
    expect(refused(`${head}]><svg xmlns="http://www.w3.org/2000/svg">${'&a;'.repeat(40_000)}</svg>`).code).toBe(
      'svg.entities',
    );
    expect(refused(`${head}]><svg xmlns="http://www.w3.org/2000/svg">${'<a b="'.repeat(100_000)}&a;`).code).toBe(
      'svg.xml',
    );
  });

  test('a declaration hidden by namespace prefix is still a script', () => {
    expect(told(read(svg('<svg:script xmlns:svg="http://www.w3.org/2000/svg">alert(1)</svg:script>')))).toContain(
      'a script',
    );
  });
});

test('the limits are the ones the docs name', () => {
  expect(LIMITS).toMatchObject({ fileBytes: 33_554_432, elements: 200_000, depth: 200, expandedElements: 250_000 });
});
