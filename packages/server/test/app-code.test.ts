import { mkdirSync, mkdtempSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync, gunzipSync } from 'node:zlib';
import { startOnOwnDatabase } from './running';

const DIST = join(__dirname, '../../../dist');
/** A name under which the server is asked from another machine. */
const ELSEWHERE = 'tolvik.studio.example';
const CODE = `export const words = ${JSON.stringify('of the app, said again and again. '.repeat(200))};`;

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
beforeAll(async () => {
  const dist = mkdtempSync(join(tmpdir(), 'tolvik-dist-'));
  for (const name of readdirSync(DIST)) if (name.endsWith('.mjs')) symlinkSync(join(DIST, name), join(dist, name));
  const assets = join(dist, 'web', 'assets');
  mkdirSync(assets, { recursive: true });
  mkdirSync(join(dist, 'web', '.vite'));
  writeFileSync(
    join(dist, 'web', '.vite', 'manifest.json'),
    '{"src/app/ProjectPage.tsx":{"file":"assets/ProjectPage-1.js"}}',
  );
  writeFileSync(join(dist, 'web', 'index.html'), '<head></head><body>__NONCE__</body>');
  writeFileSync(join(assets, 'packed-1.js'), CODE);
  writeFileSync(join(assets, 'packed-1.js.br'), brotliCompressSync(CODE));
  writeFileSync(join(assets, 'plain-1.js'), CODE);
  server = await startOnOwnDatabase({ TOLVIK_DIST: dist, TOLVIK_HOSTS: ELSEWHERE });
});
afterAll(() => server.close());

/** Bytes as they go over the wire, with what is said of them. */
const sent = (path: string, encodings: string, host = ELSEWHERE) =>
  new Promise<{ status?: number; headers: Record<string, unknown>; bytes: Buffer }>((resolve, reject) => {
    get(`${server.url}${path}`, { headers: { host, 'accept-encoding': encodings } }, (response) => {
      const chunks: Buffer[] = [];
      response.on('data', (chunk: Buffer) => chunks.push(chunk));
      response.on('end', () =>
        resolve({ status: response.statusCode, headers: response.headers, bytes: Buffer.concat(chunks) }),
      );
    }).on('error', reject);
  });

test('code that was compressed when it was built is sent as it lies there, for good', async () => {
  const { headers, bytes } = await sent('/assets/packed-1.js', 'gzip, deflate, br');
  expect(headers).toMatchObject({
    'content-encoding': 'br',
    'content-type': expect.stringContaining('javascript'),
    'cache-control': expect.stringContaining('immutable'),
    vary: expect.stringContaining('Accept-Encoding'),
  });
  expect(bytes).toEqual(brotliCompressSync(CODE));
  expect(brotliDecompressSync(bytes).toString()).toBe(CODE);
});

test('who does not read that gets it otherwise', async () => {
  const zipped = await sent('/assets/packed-1.js', 'gzip');
  expect(zipped.headers['content-encoding']).toBe('gzip');
  expect(gunzipSync(zipped.bytes).toString()).toBe(CODE);
  const bare = await sent('/assets/packed-1.js', 'identity');
  expect(bare.headers['content-encoding']).toBeUndefined();
  expect(bare.bytes.toString()).toBe(CODE);
  const other = await sent('/assets/plain-1.js', 'br');
  expect(brotliDecompressSync(other.bytes).toString()).toBe(CODE);
});

test('within the machine nothing is packed', async () => {
  for (const host of ['localhost', '127.0.0.1:80', '[::1]'])
    for (const path of ['/assets/packed-1.js', '/api/openapi.json']) {
      const { headers, bytes } = await sent(path, 'gzip, deflate, br', host);
      expect(headers['content-encoding']).toBeUndefined();
      expect(bytes.length).toBeGreaterThan(1000);
    }
  expect((await sent('/api/openapi.json', 'gzip')).headers['content-encoding']).toBe('gzip');
});

test('a page names its code; what the build says of itself is no file of the app', async () => {
  const page = await sent('/projects/abc/proof', 'identity');
  expect(page.bytes.toString()).toContain(
    '<link rel="modulepreload" crossorigin href="/assets/ProjectPage-1.js"></head>',
  );
  expect(page.headers.link).toContain('/api/projects/abc/made?first=');
  const shelf = (await sent('/', 'identity')).bytes.toString();
  expect(shelf).not.toContain('modulepreload');
  expect(shelf).toContain('<link rel="prefetch" as="script" crossorigin href="/assets/ProjectPage-1.js"></head>');
  for (const path of ['/.vite/manifest.json', '/assets/../.vite/manifest.json', '/%2e%76ite/manifest.json'])
    expect((await sent(path, 'identity')).bytes.toString()).not.toContain('ProjectPage.tsx');
  expect((await sent('/assets/%zz.js', 'br')).status).toBe(400);
});
