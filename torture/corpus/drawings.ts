import { type Bait, drawing, type Hostile, repeat, svg, times } from './hostile';

/** Definitions that hold each other, deep or wide. */
function nested(): Hostile[] {
  const made: Hostile[] = [];
  const kinds = [
    { tag: 'clipPath', by: (id: string) => `clip-path="url(#${id})"`, attrs: '' },
    { tag: 'mask', by: (id: string) => `mask="url(#${id})"`, attrs: '' },
    {
      tag: 'pattern',
      by: (id: string) => `fill="url(#${id})"`,
      attrs: 'width="3" height="3" patternUnits="userSpaceOnUse"',
    },
    { tag: 'marker', by: (id: string) => `marker-start="url(#${id})"`, attrs: 'markerWidth="3" markerHeight="3"' },
  ];
  for (const { tag, by, attrs } of kinds)
    for (const [deep, wide] of [
      [8, 2],
      [30, 3],
      [45, 2],
      [400, 1],
      [3000, 1],
    ]) {
      const shape = (i: number, j: number) => `<path d="M${j} 0h9v9z" ${i > 0 ? by(`d${i - 1}`) : ''}/>`;
      const defs = repeat(deep, (i) => `<${tag} id="d${i}" ${attrs}>${repeat(wide, (j) => shape(i, j))}</${tag}>`);
      made.push(
        drawing(
          'nested definitions',
          'either',
          `${tag} within ${tag}, ${deep} deep, ${wide} wide`,
          `<defs>${defs}</defs><path d="M0 0h9v9z" ${by(`d${deep - 1}`)}/>`,
        ),
      );
    }
  for (const { tag, by, attrs } of kinds) {
    made.push(
      drawing(
        'rings',
        'either',
        `${tag} in itself`,
        `<${tag} id="a" ${attrs}><path d="M0 0h9v9z" ${by('a')}/></${tag}><path d="M0 0h9v9z" ${by('a')}/>`,
      ),
    );
    made.push(
      drawing(
        'rings',
        'either',
        `two of ${tag} in each other`,
        `<${tag} id="a" ${attrs}><path d="M0 0h9v9z" ${by('b')}/></${tag}><${tag} id="b" ${attrs}><path d="M0 0h9v9z" ${by('a')}/></${tag}><path d="M0 0h9v9z" ${by('a')}/>`,
      ),
    );
  }
  for (const n of [2, 40, 3000])
    made.push(
      drawing(
        'nested definitions',
        'either',
        `${n} gradients that take from each other`,
        `<defs>${repeat(n, (i) => `<linearGradient id="g${i}" xlink:href="#g${(i + 1) % n}"/>`)}</defs><path d="M0 0h9v9z" fill="url(#g0)"/>`,
      ),
    );
  for (const [deep, wide] of [
    [4, 10],
    [8, 10],
    [20, 2],
    [29, 2],
    [40, 2],
  ])
    made.push(
      drawing(
        'copies',
        'either',
        `use of use, ${wide} times, ${deep} deep`,
        `<defs><g id="u0"><path d="M0 0h1v1z"/></g>${repeat(deep, (i) => `<g id="u${i + 1}">${`<use xlink:href="#u${i}"/>`.repeat(wide)}</g>`)}</defs><use xlink:href="#u${deep}"/>`,
      ),
    );
  made.push(drawing('rings', 'refused', 'use in itself', '<g id="a"><use xlink:href="#a"/></g>'));
  made.push(
    drawing(
      'copies',
      'either',
      'symbols in symbols',
      `${repeat(30, (i) => `<symbol id="s${i}" viewBox="0 0 9 9">${i ? `<use xlink:href="#s${i - 1}"/>` : '<path d="M0 0h9v9z"/>'}</symbol>`)}<use xlink:href="#s29"/>`,
    ),
  );
  return made;
}

/** More of something than anybody draws. */
function large(): Hostile[] {
  const words = (n: number) => 'lorem ipsum '.repeat(n / 12);
  return [
    ...[150, 190, 201, 1000, 50_000].map((n) =>
      drawing(
        'depth',
        n < 200 ? 'in' : 'refused',
        `groups ${n} deep`,
        `${'<g>'.repeat(n)}<path d="M0 0h1v1z"/>${'</g>'.repeat(n)}`,
      ),
    ),
    ...[60, 190].map((n) =>
      drawing(
        'depth',
        'either',
        `nested viewports ${n} deep`,
        `${'<svg>'.repeat(n)}<path d="M0 0h1v1z"/>${'</svg>'.repeat(n)}`,
      ),
    ),
    ...[20_000, 125_000].map((n) => drawing('elements', 'either', `${n} paths`, '<path d="M0 0h1v1z"/>'.repeat(n))),
    drawing('elements', 'refused', '250,000 paths', '<path d="M0 0h1v1z"/>'.repeat(250_000)),
    ...[1000, 20_000, 200_000, 2_000_000].map((n) =>
      drawing('text', 'in', `a text of ${n} letters`, `<text x="1" y="9">${words(n)}</text>`),
    ),
    drawing('text', 'in', '5,000 texts', '<text x="1" y="9">lorem ipsum dolor</text>'.repeat(5000)),
    drawing('text', 'in', '5,000 runs in a text', `<text x="1" y="9">${'<tspan dy="1">a</tspan>'.repeat(5000)}</text>`),
    drawing(
      'text',
      'in',
      'a place for each of 9,000 letters',
      `<text x="${times(9000, String).join(' ')}" y="9">${words(9000)}</text>`,
    ),
    drawing('text', 'in', 'runs in runs 150 deep', `<text>${'<tspan>'.repeat(150)}a${'</tspan>'.repeat(150)}</text>`),
    drawing(
      'text',
      'in',
      'letters from everywhere',
      `<text x="1" y="9">${repeat(4000, (i) => String.fromCodePoint(0x2000 + i)).replace(/[<&]/g, '')}</text>`,
    ),
    ...[1, 3.5].map((mb) =>
      drawing(
        'paths',
        'either',
        `${mb} MB of path data`,
        `<path d="M0 0${'l1 1 2 2 3-3'.repeat((mb * 1_048_576) / 12)}" stroke="#000"/>`,
      ),
    ),
    drawing('paths', 'refused', '7 MB of path data', `<path d="M0 0${'l1 1 2 2 3-3'.repeat(600_000)}"/>`),
    drawing('paths', 'either', '200,000 arcs', `<path d="M0 0${'a5 5 0 1 1 1 1'.repeat(200_000)}" stroke="#000"/>`),
    drawing('paths', 'either', '300,000 points', `<polyline points="${'1 2 3 4 '.repeat(150_000)}" stroke="#000"/>`),
    drawing(
      'paths',
      'either',
      'a hundred thousand corners with markers',
      `<marker id="m" markerWidth="3" markerHeight="3"><path d="M0 0h3v3z"/></marker><path d="M0 0${'l1 1 2-2'.repeat(50_000)}" marker-mid="url(#m)"/>`,
    ),
    drawing(
      'strokes',
      'either',
      'dashes finer than a hair on a long line',
      '<path d="M0 0h24v24z" stroke="#000" stroke-dasharray="0.00001"/>',
    ),
    drawing(
      'strokes',
      'either',
      '50,000 dashes in a list',
      `<path d="M0 0h24v24z" stroke="#000" stroke-dasharray="${'1 2 '.repeat(50_000)}"/>`,
    ),
    drawing(
      'strokes',
      'either',
      'a stroke a billion wide',
      '<path d="M0 0h24v24z" stroke="#000" stroke-width="1000000000"/>',
    ),
    drawing(
      'strokes',
      'either',
      'a mitre without end',
      '<path d="M0 0L10 0.0001L0 0" stroke="#000" stroke-miterlimit="1e30"/>',
    ),
    drawing(
      'filters',
      'either',
      'two thousand filters on two thousand shapes',
      `<filter id="f">${'<feGaussianBlur stdDeviation="3"/>'.repeat(2000)}</filter>${'<path d="M0 0h3v3z" filter="url(#f)"/>'.repeat(2000)}`,
    ),
    ...[
      '<feTurbulence baseFrequency="0.9" numOctaves="10000"/>',
      '<feMorphology operator="dilate" radius="100000"/>',
      '<feGaussianBlur stdDeviation="1e9"/>',
      '<feConvolveMatrix order="200" kernelMatrix="1"/>',
      `<feComponentTransfer><feFuncR type="table" tableValues="${'0 1 '.repeat(50_000)}"/></feComponentTransfer>`,
    ].map((primitive, i) =>
      drawing(
        'filters',
        'either',
        `filter ${i + 1} that never ends`,
        `<filter id="f" x="-1000%" y="-1000%" width="2100%" height="2100%">${primitive.repeat(20)}</filter><path d="M0 0h24v24z" filter="url(#f)"/>`,
      ),
    ),
    drawing(
      'patterns',
      'either',
      'a pattern of tiles too small to see',
      '<pattern id="p" width="0.00001" height="0.00001" patternUnits="userSpaceOnUse"><path d="M0 0h1v1z"/></pattern><path d="M0 0h24v24z" fill="url(#p)"/>',
    ),
    drawing(
      'clips',
      'either',
      '3,000 shapes by a clip of 3,000',
      `<clipPath id="c">${'<path d="M0 0h9v9z"/>'.repeat(3000)}</clipPath>${'<path d="M0 0h9v9z" clip-path="url(#c)"/>'.repeat(3000)}`,
    ),
    drawing(
      'attributes',
      'refused',
      'an element of 500 attributes',
      `<path d="M0 0" ${repeat(500, (i) => ` a${i}="1"`)}/>`,
    ),
    drawing(
      'gradients',
      'either',
      'a gradient of 100,000 stops',
      `<linearGradient id="g">${'<stop offset="0.5" stop-color="red"/>'.repeat(100_000)}</linearGradient><path d="M0 0h9v9z" fill="url(#g)"/>`,
    ),
    drawing(
      'styles',
      'either',
      '20,000 rules',
      `<style>${repeat(20_000, (i) => `.c${i}{fill:#${String(100000 + (i % 899999))}}`)}</style><path class="c1" d="M0 0h9v9z"/>`,
    ),
    drawing(
      'styles',
      'either',
      'selectors within selectors',
      `<style>${':not('.repeat(2000)}a${')'.repeat(2000)}{fill:red}</style><path d="M0 0h9v9z"/>`,
    ),
    drawing(
      'styles',
      'either',
      'a selector of 50,000 parts',
      `<style>${'g '.repeat(50_000)}path{fill:red}</style><g><g><path d="M0 0h9v9z"/></g></g>`,
    ),
    drawing(
      'styles',
      'either',
      'a rule that never closes',
      `<style>path{fill:${'('.repeat(100_000)}</style><path d="M0 0h9v9z"/>`,
    ),
    drawing(
      'styles',
      'either',
      'nested selectors that double',
      `<style>${'&amp; &amp;{'.repeat(400)}fill:red${'}'.repeat(400)}</style><path d="M0 0h9v9z"/>`,
    ),
    drawing(
      'styles',
      'either',
      'variables that double',
      `<style>:root{${repeat(200, (i) => `--v${i}:var(--v${i + 1}) var(--v${i + 1});`)}}path{fill:var(--v0)}</style>${'<path d="M0 0h9v9z"/>'.repeat(500)}`,
    ),
    drawing(
      'styles',
      'either',
      '50,000 variables',
      `<g style="${repeat(50_000, (i) => `--v${i}:red;`)}">${'<path d="M0 0h9v9z" style="fill:var(--v7)"/>'.repeat(500)}</g>`,
    ),
    drawing(
      'styles',
      'either',
      'calc 100,000 deep',
      `<rect width="${'calc('.repeat(100_000)}1${')'.repeat(100_000)}" height="9"/>`,
    ),
    drawing(
      'styles',
      'either',
      'colours mixed of colours',
      `<rect width="9" height="9" fill="${'color-mix(in srgb,red,'.repeat(20_000)}red${')'.repeat(20_000)}"/>`,
    ),
    drawing(
      'styles',
      'either',
      'a transform of 100,000 turns',
      `<rect width="9" height="9" style="transform:${'rotate(1deg) '.repeat(100_000)}"/>`,
    ),
    drawing(
      'styles',
      'either',
      'a clip of 100,000 corners',
      `<rect width="9" height="9" style="clip-path:polygon(${repeat(100_000, (i) => `${i}px ${i % 7}px,`)}0 0)"/>`,
    ),
    drawing(
      'gradients',
      'either',
      '10,000 gradients that point at each other',
      `<defs>${repeat(10_000, (i) => `<linearGradient id="g${i}" href="#g${i + 1}"/>`)}</defs><rect width="9" height="9" fill="url(#g0)"/>`,
    ),
    drawing(
      'gradients',
      'either',
      '2,000 gradients with the stops of one',
      `<defs><linearGradient id="s">${'<stop stop-color="red"/>'.repeat(500)}</linearGradient>${repeat(2000, (i) => `<linearGradient id="g${i}" href="#s"/>`)}</defs>${repeat(2000, (i) => `<path d="M0 0q9 9 9 0z" fill="url(#g${i})"/>`)}`,
    ),
    drawing(
      'clips',
      'either',
      'masks in masks, each used twice',
      `<defs>${repeat(45, (i) => `<mask id="m${i}"><rect width="9" height="9" fill="#fff" mask="url(#m${i + 1})"/><rect width="9" height="9" fill="#fff" mask="url(#m${i + 1})"/></mask>`)}</defs><rect width="9" height="9" mask="url(#m0)"/>`,
    ),
    drawing(
      'paths',
      'either',
      'markers at 100,000 corners',
      `<defs><marker id="m"><path d="M0 0h9v9z"/></marker></defs><path d="M0 0${'l1 1'.repeat(100_000)}" marker-mid="url(#m)"/>`,
    ),
    drawing(
      'filters',
      'either',
      'turned filters, 200 of them',
      `<defs><filter id="f"><feGaussianBlur stdDeviation="3"/></filter></defs>${repeat(200, (i) => `<rect width="9" height="9" filter="url(#f)" transform="rotate(${i})"/>`)}`,
    ),
    drawing(
      'styles',
      'in',
      'a style sheet of two million characters',
      `<style>/*${' '.repeat(2_000_000)}*/</style><path d="M0 0h9v9z"/>`,
    ),
  ];
}

/** Numbers at and beyond every end. */
function numbers(): Hostile[] {
  const odd = [
    '0',
    '-1',
    '-0',
    '1e-300',
    '1e300',
    '1e309',
    'NaN',
    'Infinity',
    '-Infinity',
    '99999999999',
    '0x10',
    '1,5',
    '1 2',
    '',
    ' ',
    '1e',
    '++1',
    '１',
  ];
  const sizes = odd.flatMap((value) => [
    drawing('sizes', 'either', `width of "${value}"`, '<path d="M0 0h9v9z"/>', `width="${value}" height="24"`),
    drawing('sizes', 'either', `viewBox of "${value}"`, '<path d="M0 0h9v9z"/>', `viewBox="0 0 ${value} ${value}"`),
    drawing(
      'sizes',
      'either',
      `viewBox from "${value}"`,
      '<path d="M0 0h9v9z"/>',
      `width="24" height="24" viewBox="${value} ${value} 24 24"`,
    ),
  ]);
  const places = odd.flatMap((value) => [
    drawing(
      'numbers',
      'either',
      `x, r and width of "${value}"`,
      `<rect x="${value}" y="1" width="${value}" height="3"/><circle r="${value}" cx="3"/><ellipse rx="${value}" ry="${value}"/><line x1="${value}"/><text font-size="${value}" x="${value}">a</text>`,
    ),
    drawing(
      'numbers',
      'either',
      `transform by "${value}"`,
      `<g transform="scale(${value})"><g transform="matrix(${value} 0 0 ${value} ${value} ${value})"><g transform="rotate(${value})"><path d="M0 0h9v9z"/></g></g></g>`,
    ),
    drawing(
      'numbers',
      'either',
      `path with "${value}"`,
      `<path d="M${value} ${value}L${value} 3C${value} 1 2 3 4 5A${value} ${value} 0 1 1 3 3z" stroke="#000" stroke-width="${value}" stroke-dasharray="${value}" opacity="${value}"/>`,
    ),
    drawing(
      'numbers',
      'either',
      `gradient with "${value}"`,
      `<radialGradient id="g" cx="${value}" r="${value}" gradientTransform="scale(${value})"><stop offset="${value}" stop-opacity="${value}"/></radialGradient><path d="M0 0h9v9z" fill="url(#g)"/>`,
    ),
  ]);
  const grown = drawing(
    'numbers',
    'either',
    'scales that multiply beyond any number',
    `${'<g transform="scale(1e8)">'.repeat(60)}<path d="M0 0h9v9z"/>${'</g>'.repeat(60)}`,
  );
  return [...sizes, ...places, grown];
}

/** References to what is not in the file, in every way and place. */
function reaching(): Hostile[] {
  const targets = [
    ({ url }: Bait) => `${url}/a.png`,
    ({ file }: Bait) => file,
    ({ file }: Bait) => `file://${file}`,
    ({ url }: Bait) => `${url.replace('http:', '')}/b.png`,
    () => '../../../../etc/passwd',
  ];
  const values = [
    (t: string) => `url(${t})`,
    (t: string) => `url('${t}')`,
    (t: string) => `u\\72l('${t}')`,
    (t: string) => `\\75 rl(${t})`,
    (t: string) => `image-set('${t}' 1x)`,
    (t: string) => `src('${t}')`,
    (t: string) => `url(#a) url(${t})`,
    (t: string) => `URL(/**/${t})`,
  ];
  const made: Hostile[] = [];
  for (const [i, target] of targets.entries()) {
    for (const [j, value] of values.entries())
      made.push(
        drawing('reaching out', 'in', `value ${j + 1} to target ${i + 1}`, (bait) => {
          const text = value(target(bait));
          const style = `fill:${text};filter:${text};mask:${text};clip-path:${text};marker-start:${text};cursor:${text};background:${text}`;
          return `<style>.a{${style}} @import "${target(bait)}"; @font-face{font-family:x;src:${text}}</style><path class="a" d="M0 0h9v9z"/><path d="M0 0h9v9z" style="${style}"/><path d="M0 0h9v9z" fill="${text}" stroke="${text}" filter="${text}" mask="${text}" clip-path="${text}"/>`;
        }),
      );
    made.push(
      drawing('reaching out', 'in', `elements to target ${i + 1}`, (bait) => {
        const t = target(bait);
        return `<image width="9" height="9" xlink:href="${t}"/><image width="9" height="9" href="${t}"/><use href="${t}#a"/><a href="${t}"><path d="M0 0h1v1z"/></a><filter id="f"><feImage href="${t}"/></filter><path d="M0 0h9v9z" filter="url(#f)"/><linearGradient id="g" href="${t}#g"/><path d="M0 0h9v9z" fill="url(#g)"/><foreignObject><img src="${t}"/></foreignObject><script href="${t}"/><text><textPath href="${t}#p">a</textPath></text><video src="${t}"/><iframe src="${t}"/>`;
      }),
    );
    made.push({
      kind: 'reaching out',
      must: 'either',
      name: `entities and instructions to target ${i + 1}`,
      door: 'bring-in',
      files: (bait) => ({
        'hostile.svg': `<?xml version="1.0"?><?xml-stylesheet href="${target(bait)}"?><!DOCTYPE svg PUBLIC "x" "${target(bait)}" [<!ENTITY e SYSTEM "${target(bait)}"><!ENTITY % p SYSTEM "${target(bait)}">]>${svg('<text>&e;</text>')}`,
      }),
    });
  }
  return made;
}

/** Things that act. */
function acting(): Hostile[] {
  const events = ['onload', 'onclick', 'onbegin', 'ONLOAD', 'on\u006coad', 'onfocusin', 'onmouseover'];
  return [
    ...events.map((name) =>
      drawing(
        'script',
        'in',
        `${name} on everything`,
        `<g ${name}="alert(1)"><path ${name}="alert(1)" d="M0 0h9v9z"/><text ${name}="alert(1)"><tspan ${name}="alert(1)">a</tspan></text></g>`,
      ),
    ),
    drawing(
      'script',
      'in',
      'a script',
      '<script>alert(1)</script><script type="module">alert(1)</script><path d="M0 0h9v9z"/>',
    ),
    drawing(
      'script',
      'in',
      'a script under a prefix',
      '<x:script xmlns:x="http://www.w3.org/2000/svg">alert(1)</x:script><path d="M0 0h9v9z"/>',
    ),
    drawing(
      'script',
      'in',
      'a script in what a name says',
      '<g id="&lt;script&gt;alert(1)&lt;/script&gt;"><title>"&gt;&lt;script&gt;</title><path id="\'onload=\'x" d="M0 0h9v9z"/></g>',
    ),
    drawing(
      'script',
      'in',
      'links that act',
      '<a href="javascript:alert(1)"><path d="M0 0h9v9z"/></a><a xlink:href="&#106;avascript:alert(1)"><path d="M0 0h9v9z"/></a>',
    ),
    drawing(
      'script',
      'in',
      'animations that set',
      '<path d="M0 0h9v9z"><set attributeName="onload" to="alert(1)"/><animate attributeName="href" values="javascript:alert(1)"/></path>',
    ),
    drawing(
      'script',
      'in',
      'a page inside',
      '<foreignObject><body xmlns="http://www.w3.org/1999/xhtml" onload="alert(1)"><script>alert(1)</script></body></foreignObject><path d="M0 0h9v9z"/>',
    ),
    drawing(
      'script',
      'in',
      'a drawing as a picture',
      `<image width="9" height="9" href="data:image/svg+xml;base64,${Buffer.from(svg('<script>alert(1)</script>')).toString('base64')}"/>`,
    ),
    drawing(
      'growth',
      'either',
      'drawings in drawings, each shown many times',
      Array.from({ length: 6 }).reduce(
        (inner: string) =>
          `<defs><image id="i" width="9" height="9" href="data:image/svg+xml,${encodeURIComponent(svg(inner))}"/></defs>${'<use href="#i"/>'.repeat(40)}`,
        '<path d="M0 0h9v9z"/>',
      ),
    ),
    drawing(
      'text',
      'in',
      'letters on a path of a million turns',
      `<path id="w" d="M0 0${'l1 1'.repeat(200_000)}"/><text><textPath href="#w">${'kelp '.repeat(1000)}</textPath></text>`,
    ),
    drawing(
      'script',
      'in',
      'styles that act',
      '<path style="behavior:url(#x);-moz-binding:url(#y);fill:expression(alert(1))" d="M0 0h9v9z"/>',
    ),
    drawing(
      'markup',
      'in',
      'values that close their attribute',
      '<path d="M0 0h9v9z" fill=\'"/&gt;&lt;script&gt;alert(1)&lt;/script&gt;\' font-family=\'"&gt;&lt;script&gt;\'/>',
    ),
    drawing(
      'markup',
      'in',
      'text that is markup',
      '<text>&lt;/text&gt;&lt;script&gt;alert(1)&lt;/script&gt;]]&gt;</text>',
    ),
  ];
}

/** XML as nobody writes it. */
function malformed(): Hostile[] {
  const file = (name: string, must: Hostile['must'], text: string | Uint8Array): Hostile => ({
    kind: 'XML',
    must,
    name,
    door: 'bring-in',
    files: () => ({ 'hostile.svg': text }),
  });
  const laughs = (deep: number) =>
    `<!DOCTYPE svg [<!ENTITY a0 "lol">${repeat(deep, (i) => `<!ENTITY a${i + 1} "${`&a${i};`.repeat(10)}">`)}]>${svg(`<text>&a${deep};</text>`)}`;
  const whole = svg('<path d="M0 0h9v9z"/>');
  return [
    ...[3, 9, 20].map((deep) =>
      file(`entities in entities ${deep} deep`, deep > 5 ? 'refused' : 'either', laughs(deep)),
    ),
    file(
      'an entity in itself',
      'refused',
      `<!DOCTYPE svg [<!ENTITY a "&b;"><!ENTITY b "&a;">]>${svg('<text>&a;</text>')}`,
    ),
    file(
      'one entity used 100,000 times',
      'either',
      `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}">]>${svg(`<text>${'&a;'.repeat(100_000)}</text>`)}`,
    ),
    file('5,000 entities', 'either', `<!DOCTYPE svg [${repeat(5000, (i) => `<!ENTITY e${i} "x">`)}]>${whole}`),
    file('nothing', 'refused', ''),
    file('white space', 'refused', ' \n\t '),
    file('a page', 'refused', '<!doctype html><html><svg></svg></html>'),
    file('half a file', 'refused', whole.slice(0, -10)),
    file('half a tag', 'refused', whole.slice(0, 30)),
    file('tags that cross', 'refused', svg('<g><path d="M0 0"></g></path>')),
    file('an attribute twice', 'refused', svg('<path d="M0 0" d="M1 1"/>')),
    file('no quotes', 'refused', svg('<path d=M0/>')),
    file('an unknown entity', 'refused', svg('<text>&nope;</text>')),
    file('a character that is none', 'refused', svg('<text>&#0;&#xd800;</text>')),
    file(
      'bytes that are no UTF-8',
      'either',
      Buffer.concat([
        Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><text>'),
        Buffer.from([0xff, 0xfe, 0xc0, 0x80]),
        Buffer.from('</text></svg>'),
      ]),
    ),
    file('zeros', 'refused', new Uint8Array(100_000)),
    file(
      'noise',
      'refused',
      Uint8Array.from({ length: 50_000 }, (_, i) => (i * 7919) % 251),
    ),
    file('UTF-16 without a mark', 'either', Buffer.from(whole, 'utf16le')),
    file('UTF-16 with a mark', 'in', Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(whole, 'utf16le')])),
    file('a mark for UTF-16 before UTF-8', 'refused', Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(whole)])),
    file('a comment of 20 MB', 'either', svg(`<!--${' '.repeat(20_000_000)}-->`)),
    file('40 MB', 'refused', svg(`<!--${' '.repeat(40_000_000)}-->`)),
    file('a name of a million letters', 'either', svg(`<g id="${'x'.repeat(1_000_000)}"><path d="M0 0h9v9z"/></g>`)),
    file(
      'ids that are words of the language',
      'in',
      svg(
        '<g id="__proto__"><g id="constructor"><path id="toString" d="M0 0h9v9z" fill="url(#hasOwnProperty)"/></g></g>',
      ),
    ),
    file(
      'ids like those of records',
      'in',
      svg('<g id="root"><g id="defs"><path id="settings" d="M0 0h9v9z"/></g></g>'),
    ),
    file(
      'a thousand namespaces',
      'either',
      `<svg xmlns="http://www.w3.org/2000/svg" ${repeat(150, (i) => ` xmlns:n${i}="urn:${i}"`)}><path d="M0 0h9v9z"/></svg>`,
    ),
    file('an element with a prefix nobody declared', 'either', svg('<x:g><path d="M0 0h9v9z"/></x:g>')),
    file('another namespace', 'refused', '<svg xmlns="urn:other"><path d="M0 0"/></svg>'),
    file('names that are halves of characters', 'in', svg('<g id="_xd800_"><path id="_xDFFF_" d="M0 0h9v9z"/></g>')),
    file(
      'a name that ends in half a character when cut',
      'in',
      svg(`<g id="${'🌊'.repeat(400)}"><path d="M0 0h9v9z"/></g>`),
    ),
  ];
}

/** Many files at once. */
function batches(): Hostile[] {
  const icon = svg('<path d="M0 0h4v4z"/>');
  const many = (
    name: string,
    must: Hostile['must'],
    files: (bait: Bait) => Record<string, string | Uint8Array>,
  ): Hostile => ({ kind: 'batches', must, name, door: 'bring-in', files });
  return [
    many('500 files of one name', 'in', () =>
      Object.fromEntries(times(500, (i) => [`${'../'.repeat(i % 3)}${i}/same.svg`, icon])),
    ),
    many('a good file among bad ones', 'in', () => ({
      'good.svg': icon,
      'a.svg': '<svg',
      'b.svg': svg('<path d="M0 0"/>', 'viewBox="0 0 1e300 1e300"'),
      'c.svg': '<path d="M0 0h1v1z"/>'.repeat(10),
      'd.png': 'no picture',
      'e.zip': 'PK\u0003\u0004no',
    })),
    many('a hundred files as large as may be', 'either', () =>
      Object.fromEntries(
        times(100, (i) => [`${i}.svg`, svg('<path d="M0 0h4v4z"/>', 'width="100000" height="100000"')]),
      ),
    ),
    many('125,000 elements beside a good file', 'in', () => ({
      'many.svg': svg('<path d="M0 0h1v1z"/>'.repeat(125_000)),
      'good.svg': icon,
    })),
    many('names of every kind', 'in', () =>
      Object.fromEntries(
        [
          'CON',
          'a'.repeat(250),
          '..',
          '.',
          '%00',
          'a%2fb',
          '<b>',
          "';DROP TABLE projects;--",
          '\u202egpj',
          '🦑',
          'é',
          'e\u0301',
          ' ',
          '-rf',
          '$(id)',
          '`id`',
          '{piece}',
          '{project}',
        ].map((name) => [`${name}.svg`, icon]),
      ),
    ),
  ];
}

export const drawings = (): Hostile[] => [
  ...nested(),
  ...large(),
  ...numbers(),
  ...reaching(),
  ...acting(),
  ...malformed(),
  ...batches(),
];
