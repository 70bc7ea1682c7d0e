import { PassThrough } from 'node:stream';
import { crc32, deflateRawSync } from 'node:zlib';
import yazl from 'yazl';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

async function zip(files: Record<string, string | Buffer>): Promise<Buffer> {
  const archive = new yazl.ZipFile();
  for (const [name, content] of Object.entries(files)) archive.addBuffer(Buffer.from(content), name);
  archive.end();
  const chunks: Buffer[] = [];
  for await (const chunk of archive.outputStream.pipe(new PassThrough())) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

/** A zip with one entry, by hand, so that its fields can lie. */
function rawZip(
  name: string,
  content: Buffer,
  { flags = 0, claimedSize = content.length }: { flags?: number; claimedSize?: number } = {},
): Buffer {
  const packed = deflateRawSync(content);
  const path = Buffer.from(name);
  const fields = Buffer.alloc(26);
  fields.writeUInt16LE(20, 0);
  fields.writeUInt16LE(flags, 2);
  fields.writeUInt16LE(8, 4);
  fields.writeUInt32LE(crc32(content), 10);
  fields.writeUInt32LE(packed.length, 14);
  fields.writeUInt32LE(claimedSize, 18);
  fields.writeUInt16LE(path.length, 22);
  const local = Buffer.concat([Buffer.from('PK\u0003\u0004', 'latin1'), fields, path, packed]);
  const central = Buffer.concat([Buffer.from('PK\u0001\u0002\u0014\u0000', 'latin1'), fields, Buffer.alloc(14), path]);
  const end = Buffer.alloc(22);
  end.write('PK\u0005\u0006', 0, 'latin1');
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length, 12);
  end.writeUInt32LE(local.length, 16);
  return Buffer.concat([local, central, end]);
}

const bring = async (files: Record<string, string | Uint8Array>) => {
  const id = await api.project();
  const answer = await api.bringIn(id, files);
  const names = (await api.records(id)).filter((record) => record.kind === 'artboard').map((record) => record.name);
  return {
    id,
    names,
    report: answer.body.report as {
      file: string;
      dropped: { what: string }[];
      problem?: { code: string; message: string };
    }[],
  };
};

test('each file becomes an artboard of its own size, named after it; a zip is its files', async () => {
  const { names, report } = await bring({
    'anchor.svg': icon(),
    'set.zip': await zip({
      'icons/boat.svg': icon(),
      '__MACOSX/._boat.svg': 'x',
      'icons/.DS_Store': 'x',
      'map.svg': icon('', 64),
    }),
  });
  expect(names.sort()).toEqual(['anchor', 'boat', 'map']);
  expect(report.every((line) => !line.problem)).toBe(true);
});

test('pictures become image layers at full resolution', async () => {
  const png = await (await import('sharp'))
    .default({ create: { width: 40, height: 30, channels: 3, background: '#0c6a53' } })
    .png()
    .toBuffer();
  const { id, names } = await bring({ 'shore.png': png });
  expect(names).toEqual(['shore']);
  const records = await api.records(id);
  expect(records.find((record) => record.kind === 'artboard')).toMatchObject({ width: 40, height: 30 });
  const image = records.find((record) => record.kind === 'layer' && record.tag === 'image');
  const hash = image?.kind === 'layer' ? image.attrs.href.slice(5) : '';
  expect((await api.bytes(`/blobs/${hash}`)).equals(png)).toBe(true);
});

test('one bad file never disturbs the others', async () => {
  const { names, report } = await bring({
    'good.svg': icon(),
    'bad.svg': '<svg',
    'empty.svg': '',
    'note.txt': 'hello',
  });
  expect(names).toEqual(['good']);
  expect(report.filter((line) => line.problem).map((line) => line.file)).toEqual(['bad.svg', 'empty.svg', 'note.txt']);
});

test('names of any kind become names, never paths', async () => {
  const { names } = await bring({
    '../../etc/passwd.svg': icon(),
    'CON.svg': icon(),
    '🦑.svg': icon(),
    [`${'x'.repeat(280)}.svg`]: icon(),
  });
  expect(names.sort()).toEqual(['CON', 'passwd', 'x'.repeat(280), '🦑'].sort());
});

test.each([
  ['a zip that climbs', rawZip('../../evil.svg', Buffer.from(icon())), 'zip.path'],
  ['a zip with an absolute path', rawZip('/etc/evil.svg', Buffer.from(icon())), 'zip.path'],
  ['a zip with a password', rawZip('a.svg', Buffer.from(icon()), { flags: 1 }), 'zip.password'],
  ['a zip bomb', rawZip('a.svg', Buffer.alloc(30 * 1_048_576)), 'zip.size'],
  ['a zip that lies about its size', rawZip('a.svg', Buffer.from(icon()), { claimedSize: 10 }), 'zip.broken'],
  ['a zip cut off', rawZip('a.svg', Buffer.from(icon())).subarray(0, 60), 'zip.broken'],
])('%s is refused', async (_, archive, code) => {
  const { names, report } = await bring({ 'set.zip': archive, 'good.svg': icon() });
  // A file in it that cannot be unpacked is told by its own name, all else by the archive's.
  expect(report.find((line) => line.problem)?.problem?.code).toBe(code);
  expect(names).toEqual(['good']);
});

test('a picture too large to hold is refused by its header', async () => {
  const header = Buffer.alloc(64);
  header.write('\u0089PNG\r\n\u001a\n', 0, 'latin1');
  header.writeUInt32BE(13, 8);
  header.write('IHDR', 12, 'latin1');
  header.writeUInt32BE(20_000, 16);
  header.writeUInt32BE(20_000, 20);
  expect((await bring({ 'huge.png': header })).report[0].problem).toMatchObject({
    code: 'picture.size',
    message: 'huge.png has 20000 × 20000 px',
  });
});

test('scripts are dropped and told, and never served', async () => {
  const { id, report } = await bring({ 'a.svg': icon('<script>alert(1)</script><path onload="x()" d="M1 1h9v9z"/>') });
  expect(report[0].dropped.map((each) => each.what)).toEqual(['a script', 'an event attribute (script)']);
  const { files } = (await api.get(`/projects/${id}/plan`)).body;
  const text = (await api.bytes(`/projects/${id}/files/${files[0].pieceId}/${files[0].outputId}`)).toString('utf8');
  expect(text).not.toMatch(/script|alert|onload/);
});

test('a request without files, and one that is no form', async () => {
  const id = await api.project();
  expect((await api.bringIn(id, {})).body.code).toBe('upload.empty');
  expect((await api.post(`/projects/${id}/bring-in`)).body.code).toBe('upload.form');
});

test('500 files come in as one step', async () => {
  const files = Object.fromEntries(
    Array.from({ length: 500 }, (_, i) => [`icon-${i}.svg`, icon(`<path d="M${i % 20} 2h3v3z"/>`)]),
  );
  const { id, names } = await bring(files);
  expect(names).toHaveLength(500);
  expect((await api.get(`/projects/${id}/records`)).body.version).toBe(1);
});
