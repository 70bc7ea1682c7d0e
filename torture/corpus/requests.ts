import { deflateRawSync } from 'node:zlib';
import { drawing, type Hostile, repeat, svg, times } from './hostile';

const layer = (fields: object) => ({
  id: 'hostile',
  kind: 'layer',
  parentId: 'root',
  order: 'a0',
  tag: 'rect',
  attrs: {},
  ...fields,
});

/** Records that no project may hold, by the edits route. */
function edits(): Hostile[] {
  const edit = (name: string, must: Hostile['must'], make: Extract<Hostile, { door: 'edit' }>['edit']): Hostile => ({
    kind: 'edits',
    must,
    name,
    door: 'edit',
    edit: make,
  });
  const put = (name: string, fields: object) => edit(name, 'refused', () => ({ puts: [layer(fields)] }));
  const texts = ['\0', '\u0001', '\ud800', 'a\udfff', '\uffff'];
  const references = [
    '/etc/passwd',
    'file:///etc/passwd',
    'http://127.0.0.1/',
    'data:image/png;base64,AAAA',
    '#a"><script>',
    'blob:x',
    'blob:../../etc',
  ];
  const values = [
    'url(/etc/passwd)',
    'url("http://127.0.0.1")',
    'u\\72l(#a)',
    'image-set("x" 1x)',
    'src("x")',
    'red;x:y',
    '"><script>',
    'expression(1)',
    '</svg>',
    '@import x',
  ];
  return [
    ...[
      'script',
      'foreignObject',
      'style',
      'a',
      'use',
      'iframe',
      'svg',
      'rect onload=x',
      'rect><script',
      'RECT',
      '',
      'set',
      'animate',
      'image/',
      '\0',
    ].map((tag) => put(`tag "${tag}"`, { tag })),
    ...[
      'onload',
      'style',
      'xlink:href',
      'xmlns',
      'x"><script>alert(1)</script>',
      'fill onload',
      '',
      'class',
      'id',
      'src',
      'constructor',
    ].map((name) => put(`attribute "${name}"`, { attrs: { [name]: 'x' } })),
    ...['onload', 'style', 'xlink:href', 'x" onload="'].map((name) =>
      put(`attribute of a run "${name}"`, { tag: 'text', text: [{ text: 'a', attrs: { [name]: 'x' } }] }),
    ),
    ...references.flatMap((href) => [
      put(`picture at ${href}`, { tag: 'image', attrs: { href } }),
      put(`gradient from ${href}`, { tag: 'linearGradient', parentId: 'defs', attrs: { href } }),
    ]),
    ...values.flatMap((value) => [
      put(`fill of ${value}`, { attrs: { fill: value } }),
      put(`clip of ${value}`, { attrs: { 'clip-path': value } }),
      put(`run's fill of ${value}`, { tag: 'text', text: [{ text: 'a', attrs: { fill: value } }] }),
    ]),
    ...texts.flatMap((text) => [
      put(`name ${JSON.stringify(text)}`, { name: text }),
      put(`text ${JSON.stringify(text)}`, { tag: 'text', text: [{ text, attrs: {} }] }),
      edit(`artboard ${JSON.stringify(text)}`, 'refused', ({ boardId }) => ({
        puts: [{ id: boardId, kind: 'artboard', order: 'a0', name: text, x: 0, y: 0, width: 9, height: 9 }],
      })),
    ]),
    ...[
      'root',
      'defs',
      'settings',
      'constructor',
      '__proto__',
      'toString',
      '',
      ' ',
      'a b',
      '1',
      'x'.repeat(100),
      '../x',
      '\0',
    ].map((id) => put(`id "${id}"`, { id })),
    ...['', 'a', 'a00', 'zz', 'zza0', 'A00000000000000000000000000', ' ', 'é', 'a0!', '0'.repeat(300)].map((order) =>
      put(`order "${order}"`, { order }),
    ),
    ...['gone', 'hostile', '__proto__', 'settings'].map((parentId) => put(`parent "${parentId}"`, { parentId })),
    edit('a parent that is an artboard', 'refused', ({ boardId }) => ({ puts: [layer({ parentId: boardId })] })),
    edit('two in each other', 'refused', () => ({
      puts: [layer({ id: 'ha', tag: 'g', parentId: 'hb' }), layer({ id: 'hb', tag: 'g', parentId: 'ha' })],
    })),
    edit('three in a ring', 'refused', () => ({
      puts: [
        layer({ id: 'ha', tag: 'g', parentId: 'hb' }),
        layer({ id: 'hb', tag: 'g', parentId: 'hc' }),
        layer({ id: 'hc', tag: 'g', parentId: 'ha' }),
      ],
    })),
    edit('a group that is there, in its own child', 'refused', ({ layerId }) => ({
      puts: [layer({ id: 'ha', tag: 'g', parentId: layerId }), layer({ id: layerId, tag: 'g', parentId: 'ha' })],
    })),
    edit('a layer that becomes an artboard', 'refused', ({ layerId }) => ({
      puts: [{ id: layerId, kind: 'artboard', order: 'a0', name: 'x', x: 0, y: 0, width: 9, height: 9 }],
    })),
    edit('a group without what is in it', 'refused', ({ layerId }) => ({ removes: [layerId] })),
    edit('one id twice', 'refused', () => ({ puts: [layer({}), layer({})] })),
    edit('groups 400 deep', 'refused', () => ({
      puts: times(400, (i) => layer({ id: `h${i}`, tag: 'g', parentId: i ? `h${i - 1}` : 'root' })),
    })),
    edit('groups 5,000 deep, the deepest first', 'refused', () => ({
      puts: times(5000, (i) => layer({ id: `h${i}`, tag: 'g', parentId: i < 4999 ? `h${i + 1}` : 'root' })),
    })),
    edit('60,000 records', 'refused', () => ({ puts: times(60_000, (i) => layer({ id: `h${i}` })) })),
    edit('a version that is not there yet', 'refused', ({ version }) => ({
      baseVersion: version + 5,
      puts: [layer({})],
    })),
    edit('a version beyond the column', 'refused', () => ({ baseVersion: 9e15, puts: [layer({})] })),
    edit('a version below nothing', 'refused', () => ({ baseVersion: -1, puts: [layer({})] })),
    edit('a label of a million letters', 'in', () => ({ label: 'x'.repeat(1_000_000), puts: [layer({})] })),
    edit('a label that no column takes', 'in', () => ({ label: 'a\0b\ud800', puts: [layer({ name: 'other' })] })),
    edit('an id that no column takes', 'refused', () => ({ id: 'a\0b', puts: [layer({})] })),
    edit('a matrix beyond all bounds', 'refused', () => ({ puts: [layer({ transform: [1e300, 0, 0, 1e300, 0, 0] })] })),
    edit('a matrix of words', 'refused', () => ({ puts: [layer({ transform: ['1', 0, 0, 1, 0, 0] })] })),
    edit('text of 20,000 letters', 'refused', () => ({
      puts: [layer({ tag: 'text', text: [{ text: 'x'.repeat(20_000), attrs: {} }] })],
    })),
    edit('definitions in each other', 'either', () => ({
      puts: [
        layer({ id: 'ca', tag: 'clipPath', parentId: 'defs', attrs: { 'clip-path': 'url(#cb)' } }),
        layer({ id: 'cb', tag: 'clipPath', parentId: 'defs', attrs: { 'clip-path': 'url(#ca)' } }),
        layer({ attrs: { width: '9', height: '9', 'clip-path': 'url(#ca)' } }),
      ],
    })),
    edit('2,000 definitions in a row', 'either', () => ({
      puts: [
        ...times(2000, (i) =>
          layer({ id: `c${i}`, tag: 'clipPath', parentId: 'defs', attrs: { 'clip-path': `url(#c${i + 1})` } }),
        ),
        layer({ attrs: { width: '9', height: '9', 'clip-path': 'url(#c0)' } }),
      ],
    })),
    edit('an artboard larger than the plane', 'refused', ({ boardId }) => ({
      puts: [{ id: boardId, kind: 'artboard', order: 'a0', name: 'x', x: 0, y: 0, width: 1e9, height: 9 }],
    })),
    edit('a follower of itself', 'either', ({ boardId }) => ({
      puts: [
        {
          id: boardId,
          kind: 'artboard',
          order: 'a0',
          name: 'x',
          x: 0,
          y: 0,
          width: 9,
          height: 9,
          follows: { artboardId: boardId, rule: { kind: 'white' } },
        },
      ],
    })),
    edit('a slice of what is not there', 'in', () => ({
      puts: [
        {
          id: 'hslice',
          kind: 'slice',
          order: 'a0',
          name: 'x',
          source: { kind: 'layer', layerId: 'gone' },
          specIds: [],
        },
      ],
    })),
    edit('a font that is none', 'in', () => ({
      puts: [{ id: 'hfont', kind: 'font', order: 'a0', family: 'x', weight: 400, italic: false, hash: 'a'.repeat(64) }],
    })),
    edit('a picture that is not there', 'in', () => ({
      puts: [layer({ id: 'hpic', tag: 'image', attrs: { href: `blob:${'b'.repeat(64)}`, width: '9', height: '9' } })],
    })),
    edit('an edition that differs in the language', 'refused', ({ boardId }) => ({
      puts: [
        {
          id: 'hed',
          kind: 'edition',
          artboardId: boardId,
          order: 'a0',
          name: 'x',
          overrides: { constructor: { shown: false } },
        },
      ],
    })),
    edit('3,000 artboards of one name', 'in', () => ({
      puts: times(3000, (i) => ({
        id: `hb${i}`,
        kind: 'artboard',
        order: `d${String(i).padStart(4, '0')}`,
        name: 'same',
        x: (i % 60) * 30,
        y: Math.floor(i / 60) * 30,
        width: 24,
        height: 24,
        specIds: [],
      })),
    })),
  ];
}

/** JSON and addresses as no client of ours sends them. `:id` stands for a project. */
function json(): Hostile[] {
  const request = (
    name: string,
    method: 'POST' | 'PATCH',
    path: string,
    body: () => string | Uint8Array,
    must: Hostile['must'] = 'refused',
    headers?: Record<string, string>,
  ): Hostile => ({
    kind: 'JSON',
    must,
    name,
    door: 'json',
    method,
    path,
    body,
    headers,
  });
  const bodies: [string, () => string | Uint8Array][] = [
    ['nothing', () => ''],
    ['null', () => 'null'],
    ['a number', () => '5'],
    ['a list', () => '[]'],
    ['half', () => '{"name":"x'],
    ['brackets, 4 MB of them', () => '['.repeat(4_000_000)],
    ['objects in objects, 100,000 deep', () => `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`],
    ['a number too long', () => `{"name":${'9'.repeat(100_000)}}`],
    ['bytes that are no text', () => Buffer.from([0xff, 0xfe, 0x7b, 0x7d])],
    ['a prototype', () => '{"__proto__":{"name":"x"},"constructor":{"prototype":{}}}'],
    ['a million keys', () => `{${repeat(100_000, (i) => `"k${i}":1,`)}"z":1}`],
    ['70 MB', () => `{"name":"${'x'.repeat(70_000_000)}"}`],
  ];
  const doors: [string, 'POST' | 'PATCH'][] = [
    ['/projects', 'POST'],
    ['/projects/:id', 'PATCH'],
    ['/projects/:id/edits', 'POST'],
    ['/projects/:id/trial', 'POST'],
    ['/specs', 'POST'],
  ];
  const names = ['', ' ', '\0', '\ud800', 'x'.repeat(301), 5, null, {}, [], true];
  return [
    ...doors.flatMap(([path, method]) =>
      bodies.map(([name, body]) =>
        request(
          `${method} ${path}: ${name}`,
          method,
          path,
          body,
          path === '/projects/:id' && /prototype|keys|list|nothing|objects/.test(name) ? 'either' : 'refused',
        ),
      ),
    ),
    ...names.flatMap((name) => [
      request(`a project called ${JSON.stringify(name).slice(0, 20)}`, 'POST', '/projects', () =>
        JSON.stringify({ name }),
      ),
      request(`renamed to ${JSON.stringify(name).slice(0, 20)}`, 'PATCH', '/projects/:id', () =>
        JSON.stringify({ name }),
      ),
    ]),
    request('a charset nobody knows', 'POST', '/projects', () => '{"name":"x"}', 'refused', {
      'content-type': 'application/json; charset=klingon',
    }),
    request('an encoding nobody knows', 'POST', '/projects', () => '{"name":"x"}', 'refused', {
      'content-encoding': 'klingon',
    }),
    request('gzip that is none', 'POST', '/projects', () => '{"name":"x"}', 'refused', { 'content-encoding': 'gzip' }),
    request('another type', 'POST', '/projects', () => 'name=x', 'refused', { 'content-type': 'text/plain' }),
    request('a copy of nothing', 'POST', '/projects', () => JSON.stringify({ name: 'x', copyOf: 'nope' })),
    request('20,001 pieces', 'POST', '/projects/:id/deliveries', () =>
      JSON.stringify({ pieceIds: times(20_001, (i) => `p${i}`) }),
    ),
    request('an export of nothing', 'POST', '/projects/:id/deliveries', () => JSON.stringify({ pieceIds: ['nope'] })),
    request('a spec of a million outputs', 'POST', '/specs', () =>
      JSON.stringify({
        tolvik: 'spec',
        version: 1,
        spec: { name: 'x' },
        outputs: times(20_000, () => ({ size: { kind: 'factor', factor: 1 }, settings: { format: 'png' } })),
      }),
    ),
    request('a spec from the future', 'POST', '/specs', () =>
      JSON.stringify({ tolvik: 'spec', version: 99, spec: { name: 'x' }, outputs: [] }),
    ),
    request('a spec with a hostile name', 'POST', '/specs', () =>
      JSON.stringify({ tolvik: 'spec', version: 1, spec: { name: 'a\0b' }, outputs: [] }),
    ),
    ...[
      '/projects/%00',
      '/projects/%ff',
      '/projects/%zz',
      '/projects/..%2f..%2fetc',
      `/projects/${'x'.repeat(5000)}`,
      '/projects/constructor',
      '/projects/__proto__/plan',
      '/projects/:id/records?since=-1',
      '/projects/:id/records?since=99999999999',
      '/projects/:id/records?since=1e400',
      '/projects/:id/records?since=x',
      '/projects/:id/records?since=1&since=2',
      '/projects/:id/files/%00/x',
      '/projects/:id/files/a/b?key[]=1',
      '/projects/:id/files/a/b?key=zz',
      '/projects/:id/files/a/b/picture.png?key=%00',
      '/blobs/x',
      '/blobs/%00',
      `/blobs/${'a'.repeat(64)}`,
      '/blobs/../../etc/passwd',
      '/deliveries/%00',
      '/deliveries/x/files/0',
      '/deliveries/x/files/99999999999',
      '/deliveries/x/rows?positions=',
      '/deliveries/x/archive.zip',
      '/nope',
      '/projects/%ed%a0%80/plan',
      '/projects/a%00b/events',
      '/../../etc/passwd',
      '//etc/passwd',
    ].map((path): Hostile => ({ kind: 'addresses', must: 'refused', name: path.slice(0, 60), door: 'get', path })),
  ];
}

/** Forms and connections that break off, lie or never end. */
function forms(): Hostile[] {
  const B = 'XxX';
  const head = (
    port: number,
    id: string,
    route: string,
    length: number | string,
    type = `multipart/form-data; boundary=${B}`,
  ) =>
    `POST /api/projects/${id}/${route} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: ${type}\r\nContent-Length: ${length}\r\n\r\n`;
  const part = (name: string, body: string, extra = '') =>
    `--${B}\r\nContent-Disposition: form-data; name="files"; filename="${name}"${extra}\r\n\r\n${body}`;
  const routes = ['bring-in', 'fonts'];
  const raw = (name: string, bytes: (port: number, id: string) => string | Uint8Array): Hostile => ({
    kind: 'connections',
    must: 'refused',
    name,
    door: 'raw',
    bytes: (port, id) => Buffer.from(bytes(port, id) as string),
  });
  const open = (body: string, length: number) => (port: number) =>
    `POST /api/projects/open HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: multipart/form-data; boundary=${B}\r\nContent-Length: ${length}\r\n\r\n${body}`;
  return [
    ...routes.map((route) =>
      raw(`${route} stops inside a file`, (port, id) => head(port, id, route, 100_000) + part('a.svg', '<svg')),
    ),
    raw('open stops inside a file', open(part('a.svg', '<svg'), 100_000)),
    ...routes.map((route) =>
      raw(`${route} stops inside a header`, (port, id) => `${head(port, id, route, 100_000)}--${B}\r\nContent-Dispo`),
    ),
    ...routes.map((route) => raw(`${route} stops before anything`, (port, id) => head(port, id, route, 100_000))),
    raw(
      'a form without an end',
      (port, id) => head(port, id, 'bring-in', Buffer.byteLength(part('a.svg', svg('')))) + part('a.svg', svg('')),
    ),
    raw('a form without a boundary', (port, id) => `${head(port, id, 'bring-in', 5, 'multipart/form-data')}hello`),
    raw('a form that is none', (port, id) => `${head(port, id, 'bring-in', 5, 'text/plain')}hello`),
    raw(
      'a boundary of a thousand letters',
      (port, id) => `${head(port, id, 'bring-in', 5, `multipart/form-data; boundary=${'b'.repeat(1000)}`)}hello`,
    ),
    ...[20, 20_000, 200_000].map((n) =>
      raw(`${n} fields`, (port, id) => {
        const body = `${`--${B}\r\nContent-Disposition: form-data; name="a"\r\n\r\nx\r\n`.repeat(n)}--${B}--\r\n`;
        return head(port, id, 'bring-in', Buffer.byteLength(body)) + body;
      }),
    ),
    raw('3,000 files', (port, id) => {
      const body = `${`${part('a.svg', 'x')}\r\n`.repeat(3000)}--${B}--\r\n`;
      return head(port, id, 'bring-in', Buffer.byteLength(body)) + body;
    }),
    raw(
      'a header of a megabyte',
      (port, id) => head(port, id, 'bring-in', 2_000_000) + part('a.svg', 'x', `; x="${'y'.repeat(1_000_000)}"`),
    ),
    raw('no host', (_, id) => `GET /api/projects/${id} HTTP/1.1\r\n\r\n`),
    raw('an empty host', (_, id) => `GET /api/projects/${id} HTTP/1.1\r\nHost: \r\n\r\n`),
    raw('a host of dots', (_, id) => `GET /api/projects/${id} HTTP/1.1\r\nHost: ...\r\n\r\n`),
    raw('a foreign host', (_, id) => `GET /api/projects/${id} HTTP/1.1\r\nHost: evil.example\r\n\r\n`),
    raw(
      'a host like ours',
      (port, id) => `GET /api/projects/${id} HTTP/1.1\r\nHost: 127.0.0.1.evil.example:${port}\r\n\r\n`,
    ),
    raw(
      'a foreign origin',
      (port, id) =>
        `GET /api/projects/${id} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nOrigin: http://evil.example\r\n\r\n`,
    ),
    raw(
      'two lengths',
      (port) =>
        `POST /api/projects HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello`,
    ),
    raw(
      'a length below nothing',
      (port) => `POST /api/projects HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Length: -5\r\n\r\n`,
    ),
    raw(
      'chunks that lie',
      (port) =>
        `POST /api/projects HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\nfffffffff\r\n{}`,
    ),
    raw('no HTTP at all', () => Buffer.from([0x16, 0x03, 0x01, 0x02, 0x00, 0x01])),
    raw('a line that never ends', (port) => `GET /${'a'.repeat(100_000)} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n\r\n`),
    raw(
      '10,000 headers',
      (port) => `GET /api/health HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n${repeat(10_000, (i) => `x${i}: y\r\n`)}\r\n`,
    ),
  ];
}

/** A zip by hand, so that it can lie. */
export function zip(
  entries: { name: string; body: Uint8Array; crc?: number; size?: number; method?: number; flags?: number }[],
): Buffer {
  const locals: Buffer[] = [];
  const centrals: Buffer[] = [];
  let at = 0;
  for (const { name, body, crc, size = body.length, method = 8, flags = 0 } of entries) {
    const packed = method === 8 ? deflateRawSync(body) : Buffer.from(body);
    const names = Buffer.from(name);
    const shared = Buffer.alloc(26);
    shared.writeUInt16LE(20, 0);
    shared.writeUInt16LE(flags, 2);
    shared.writeUInt16LE(method, 4);
    shared.writeUInt32LE(crc ?? crc32(body), 10);
    shared.writeUInt32LE(packed.length, 14);
    shared.writeUInt32LE(size >>> 0, 18);
    shared.writeUInt16LE(names.length, 22);
    const local = Buffer.concat([Buffer.from('PK\x03\x04'), shared, names, packed]);
    const central = Buffer.concat([Buffer.from('PK\x01\x02'), Buffer.from([20, 0]), shared, Buffer.alloc(14), names]);
    central.writeUInt32LE(at, 42);
    locals.push(local);
    centrals.push(central);
    at += local.length;
  }
  const directory = Buffer.concat(centrals);
  const end = Buffer.alloc(22);
  end.write('PK\x05\x06', 0, 'latin1');
  end.writeUInt16LE(entries.length, 8);
  end.writeUInt16LE(entries.length, 10);
  end.writeUInt32LE(directory.length, 12);
  end.writeUInt32LE(at, 16);
  return Buffer.concat([...locals, directory, end]);
}

const TABLE = times(256, (n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});
function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = TABLE[(c ^ byte) & 255] ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

function archives(): Hostile[] {
  const icon = Buffer.from(svg('<path d="M0 0h4v4z"/>'));
  const file = (name: string, must: Hostile['must'], make: () => Uint8Array): Hostile => ({
    kind: 'archives',
    must,
    name,
    door: 'bring-in',
    files: () => ({ 'set.zip': make() }),
  });
  const good = zip([{ name: 'a.svg', body: icon }]);
  return [
    ...['../a.svg', '/a.svg', 'C:\\a.svg', '..\\a.svg', 'a/../../b.svg', 'a\0.svg', '//a.svg'].map((name) =>
      file(`named ${JSON.stringify(name)}`, 'either', () => zip([{ name, body: icon }])),
    ),
    file('a checksum of other bytes', 'refused', () => zip([{ name: 'a.svg', body: icon, crc: 1 }])),
    file('a checksum of other bytes, beside a good file', 'in', () =>
      zip([
        { name: 'a.svg', body: icon, crc: 1 },
        { name: 'b.svg', body: icon },
      ]),
    ),
    file('a size that lies, too small', 'refused', () => zip([{ name: 'a.svg', body: icon, size: 3 }])),
    file('a size that lies, too large', 'refused', () => zip([{ name: 'a.svg', body: icon, size: 4_000_000_000 }])),
    file('a bomb', 'refused', () => zip([{ name: 'a.svg', body: new Uint8Array(31 * 1_048_576) }])),
    file('many small bombs', 'refused', () =>
      zip(times(20, (i) => ({ name: `${i}.svg`, body: new Uint8Array(30 * 1_048_576) }))),
    ),
    file('a zip in a zip', 'refused', () => zip([{ name: 'a.zip', body: good }])),
    file('encrypted', 'refused', () => zip([{ name: 'a.svg', body: icon, flags: 1 }])),
    file('a method nobody knows', 'refused', () => zip([{ name: 'a.svg', body: icon, method: 99 }])),
    file('20,000 entries', 'refused', () => zip(times(20_000, (i) => ({ name: `${i}.svg`, body: new Uint8Array(1) })))),
    file('an entry twice', 'in', () =>
      zip([
        { name: 'a.svg', body: icon },
        { name: 'a.svg', body: icon },
      ]),
    ),
    file('nothing inside', 'refused', () => zip([])),
    file('cut off', 'refused', () => good.subarray(0, good.length - 30)),
    file('a beginning only', 'refused', () => Buffer.from('PK\x03\x04')),
    file('noise after a beginning', 'refused', () =>
      Buffer.concat([Buffer.from('PK\x03\x04'), Buffer.from(times(5000, (i) => (i * 131) % 256))]),
    ),
  ];
}

function pictures(): Hostile[] {
  const file = (name: string, must: Hostile['must'], make: () => Uint8Array): Hostile => ({
    kind: 'pictures',
    must,
    name,
    door: 'bring-in',
    files: () => ({ 'picture.png': make() }),
  });
  const png = (width: number, height: number, rest = 0) => {
    const head = Buffer.alloc(33 + rest);
    head.write('\x89PNG\r\n\x1a\n', 0, 'latin1');
    head.writeUInt32BE(13, 8);
    head.write('IHDR', 12);
    head.writeUInt32BE(width, 16);
    head.writeUInt32BE(height, 20);
    head[24] = 8;
    head[25] = 6;
    return head;
  };
  const jpeg = (width: number, height: number) =>
    Buffer.from([
      0xff,
      0xd8,
      0xff,
      0xc0,
      0,
      17,
      8,
      height >> 8,
      height & 255,
      width >> 8,
      width & 255,
      3,
      1,
      0x22,
      0,
      2,
      0x11,
      1,
      3,
      0x11,
      1,
      0xff,
      0xd9,
    ]);
  return [
    ...[0, 1, 16_384, 20_000, 0xffffffff].flatMap((side) => [
      file(`a PNG that says ${side} px and holds nothing`, side > 16_384 || side === 0 ? 'refused' : 'either', () =>
        png(side, side),
      ),
    ]),
    file('a PNG of a hundred million px that holds nothing', 'either', () => png(10_000, 10_000, 200)),
    file('a PNG of 70 MB', 'refused', () => png(100, 100, 70 * 1_048_576)),
    ...[0, 9, 60_000].map((side) =>
      file(`a JPEG that says ${side} px and holds nothing`, side === 9 ? 'either' : 'refused', () => jpeg(side, side)),
    ),
    file('a JPEG whose parts go in a circle', 'refused', () =>
      Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 0, 0xff, 0xe0, 0, 0, 0, 0, 0, 0]),
    ),
    file('half a GIF', 'either', () => Buffer.from('GIF89a\x09\x00\x09\x00\x00\x00\x00', 'latin1')),
    file('half a WebP', 'either', () =>
      Buffer.from(
        'RIFF\x20\x00\x00\x00WEBPVP8 \x00\x00\x00\x00\x00\x00\x00\x9d\x01\x2a\x09\x00\x09\x00\x00\x00\x00\x00',
        'latin1',
      ),
    ),
    drawing(
      'pictures',
      'in',
      'data that is no picture',
      `<image width="9" height="9" href="data:image/png;base64,${Buffer.from('hello').toString('base64')}"/>`,
    ),
    drawing(
      'pictures',
      'in',
      'a picture of the wrong kind',
      `<image width="9" height="9" href="data:image/jpeg;base64,${png(9, 9).toString('base64')}"/>`,
    ),
    drawing(
      'pictures',
      'in',
      'a picture too large to draw',
      `<image width="9" height="9" href="data:image/png;base64,${png(30_000, 30_000).toString('base64')}"/>`,
    ),
  ];
}

function fonts(): Hostile[] {
  const file = (name: string, make: () => Uint8Array): Hostile => ({
    kind: 'fonts',
    must: 'refused',
    name,
    door: 'font',
    file: make,
  });
  const sfnt = (tables: number, length: number) => {
    const bytes = Buffer.alloc(12 + tables * 16 + 64);
    bytes.writeUInt32BE(0x00010000, 0);
    bytes.writeUInt16BE(tables, 4);
    for (let i = 0; i < tables; i++) {
      bytes.write(['cmap', 'glyf', 'head', 'hhea', 'hmtx', 'loca', 'maxp', 'name'][i % 8], 12 + i * 16);
      bytes.writeUInt32BE(12, 12 + i * 16 + 8);
      bytes.writeUInt32BE(length >>> 0, 12 + i * 16 + 12);
    }
    return bytes;
  };
  return [
    ...['wOF2', 'wOFF', 'OTTO', '\0\x01\0\0', 'true', 'ttcf'].flatMap((magic) => [
      file(`${JSON.stringify(magic)} and nothing`, () => Buffer.from(magic, 'latin1')),
      file(`${JSON.stringify(magic)} and noise`, () =>
        Buffer.concat([Buffer.from(magic, 'latin1'), Buffer.from(times(20_000, (i) => (i * 89 + (i >> 3)) % 256))]),
      ),
    ]),
    ...[8, 5000].map((n) => file(`${n} tables beyond its end`, () => sfnt(n, 0xffffffff))),
    file('8 tables that are each other', () => sfnt(8, 64)),
    file('12 MB', () => Buffer.concat([Buffer.from('\0\x01\0\0', 'latin1'), Buffer.alloc(12 * 1_048_576)])),
    file('a drawing', () => Buffer.from(svg(''))),
  ];
}

/** Project files from strangers. */
function projectFiles(): Hostile[] {
  const NS = 'https://tolvik.invalid/ns/project';
  const project = (meta: string, inner = '') =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:tolvik="${NS}" viewBox="0 0 9 9"><metadata><tolvik:project>${meta.replace(/&/g, '&amp;').replace(/</g, '&lt;')}</tolvik:project></metadata>${inner}</svg>`;
  const file = (name: string, must: Hostile['must'], make: Extract<Hostile, { door: 'open' }>['file']): Hostile => ({
    kind: 'project files',
    must,
    name,
    door: 'open',
    file: make,
  });
  const base = { version: 1, name: 'x', records: [], layers: {} };
  const meta = (fields: object) => JSON.stringify({ ...base, ...fields });
  const board = { id: 'board', kind: 'artboard', order: 'a0', name: 'board', x: 0, y: 0, width: 9, height: 9 };
  const marked = (mark: object) => meta({ records: [board], layers: { l1: { name: 'l', order: 'a0', ...mark } } });
  return [
    file('no project', 'refused', () => svg('')),
    file('a project that is no JSON', 'refused', () => project('{')),
    file('a project of brackets', 'refused', () => project('['.repeat(2_000_000))),
    file('a project from the future', 'refused', () => project(meta({ version: 99 }))),
    file('a project without a version', 'refused', () => project('{}')),
    ...[
      { records: [{ ...board, name: 'a\0b' }] },
      { records: [{ ...board, id: 'root' }] },
      { records: [{ ...board, order: 'zz' }] },
      { records: [{ ...board, x: 1e300 }] },
      { records: 'no' },
      { layers: [] },
      { fonts: { x: 'y' } },
      { name: 5 },
    ].map((fields, i) => file(`hostile records ${i + 1}`, 'refused', () => project(meta(fields)))),
    file('marks of what is not there', 'in', () =>
      project(
        meta({
          layers: {
            gone: { name: 'x', order: 'a0' },
            __proto__: { name: 'x' },
            constructor: { name: 'x', order: 'a0' },
          },
        }),
        '<rect id="constructor" width="9" height="9"/>',
      ),
    ),
    file('a mark with text that runs script', 'either', () =>
      project(marked({ text: [{ text: 'a', attrs: { onload: 'alert(1)' } }] }), '<text id="l1">a</text>'),
    ),
    file('a mark with a path as a paint', 'either', ({ file: path } = { url: '', file: '' }) =>
      project(marked({ text: [{ text: 'a', attrs: { fill: `url(${path})` } }] }), '<text id="l1">a</text>'),
    ),
    file('a picture by its path', 'in', ({ file: path }) =>
      project(
        meta({ records: [board] }),
        `<image id="l1" width="9" height="9" xlink:href="${path}"/><image width="9" height="9" href="file://${path}"/>`,
      ),
    ),
    file('the same id a hundred times', 'in', () =>
      project(marked({}), '<rect id="l1" width="9" height="9"/>'.repeat(100)),
    ),
    file('an outline by a path that is markup', 'in', () =>
      project(
        meta({
          records: [
            board,
            {
              id: 'cut',
              kind: 'slice',
              order: 'a0',
              name: 'cut',
              source: { kind: 'region', x: 0, y: 0, width: 9, height: 9 },
              shape: { kind: 'outline', layerId: 'l1' },
            },
          ],
          layers: { l1: { name: 'l', order: 'a0' } },
        }),
        '<path id="l1" d="M0 0h9v9z&quot;/&gt;&lt;script&gt;alert(1)&lt;/script&gt;"/>',
      ),
    ),
    file('scripts in the artwork', 'in', () =>
      project(
        meta({ records: [board] }),
        '<script>alert(1)</script><g onload="alert(1)"><rect width="9" height="9" onclick="alert(1)"/></g>',
      ),
    ),
    file('a font that is none', 'in', () => project(meta({ fonts: { ['a'.repeat(64)]: 'AAAA' } }))),
    file('60,000 artboards', 'either', () =>
      project(meta({ records: times(60_000, (i) => ({ ...board, id: `b${i}`, name: 'same' })) })),
    ),
    file('what another editor added', 'in', () =>
      project(marked({}), '<rect id="l1" width="9" height="9"/><g><circle r="3"/></g>'),
    ),
  ];
}

export const requests = (): Hostile[] => [
  ...edits(),
  ...json(),
  ...forms(),
  ...archives(),
  ...pictures(),
  ...fonts(),
  ...projectFiles(),
];
