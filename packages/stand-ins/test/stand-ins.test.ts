import { defaultSettings, type Format } from '@tolvik/core';
import { renderFile } from '@tolvik/render';
import sharp from 'sharp';
import { decoded, KINDS, type StandIn, type StandInKind, startStandIn } from '../src';

const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24"><circle cx="12" cy="12" r="9" fill="#0c6a53"/></svg>';

const file = async (format: Format): Promise<Buffer> => {
  const { bytes } = await renderFile({
    svg: SVG,
    widthPx: 24,
    heightPx: 24,
    dpi: 72,
    ground: 'none',
    settings: defaultSettings(format),
  });
  return Buffer.from(bytes);
};

let open: StandIn[] = [];
const start = async (kind: StandInKind): Promise<StandIn> => {
  const standIn = await startStandIn(kind, 0);
  open.push(standIn);
  return standIn;
};
afterEach(async () => {
  for (const each of open) await each.close();
  open = [];
});

const put = async (address: string, path: string, bytes: Buffer | string, headers: Record<string, string> = {}) => {
  const response = await fetch(address + path, { method: 'PUT', body: bytes as string, headers });
  const text = await response.text();
  return { status: response.status, detail: text ? (JSON.parse(text) as { detail: string }).detail : '' };
};

test.each<[Format, string]>([
  ['png', 'icon.png'],
  ['jpeg', 'icon.jpg'],
  ['svg', 'icon.svg'],
  ['pdf', 'icon.pdf'],
])('a %s is known by what it holds, with its size', async (format, path) => {
  const known = await decoded(path, await file(format));
  expect(known).toMatchObject({ path, format });
  expect(known.widthPx).toBeCloseTo(24, 5);
  expect(known.heightPx).toBeCloseTo(24, 5);
});

test.each<[string, string, () => Promise<Buffer> | Buffer]>([
  ['this is a JPEG, and its name ends in .png', 'icon.png', () => file('jpeg')],
  ['this is neither PNG nor JPEG nor SVG nor PDF', 'icon.png', () => Buffer.from('hello')],
  ['it is damaged', 'icon.png', async () => (await file('png')).subarray(0, 80)],
  ['the PDF is cut off', 'icon.pdf', async () => (await file('pdf')).subarray(0, 300)],
])('%s: it says so', async (words, path, bytes) => {
  await expect(decoded(path, await bytes())).rejects.toThrow(words);
});

test('an app build takes what fits its rules, and says why it does not take the rest', async () => {
  const { address, files } = await start(KINDS['app-build']);
  expect(await put(address, 'icons/anchor.png', await file('png'))).toEqual({ status: 201, detail: '' });
  expect((await put(address, 'icons/anchor.png', await file('png'))).status).toBe(204);
  expect([...files.keys()]).toEqual(['icons/anchor.png']);
  expect(await put(address, 'Anchor.png', await file('png'))).toEqual({
    status: 422,
    detail: 'it takes names in small letters',
  });
  expect((await put(address, 'anchor.pdf', await file('pdf'))).detail).toBe('it takes SVG, PNG, no PDF');
  const noise = await sharp({
    create: {
      width: 400,
      height: 400,
      channels: 3,
      noise: { type: 'gaussian', mean: 128, sigma: 60 },
      background: '#000',
    },
  })
    .png()
    .toBuffer();
  expect((await put(address, 'noise.png', noise)).detail).toMatch(/takes files of up to 100 KB, this is \d/);
  expect((await put(address, 'icons//up.png', await file('png'))).status).toBe(400);
  const list = (await (await fetch(address)).json()) as { files: string[] };
  expect(list.files).toEqual(['icons/anchor.png']);
});

test('a print shop asks for its key, and takes PDF alone', async () => {
  const kind = KINDS['print-shop'];
  const { address, files } = await start(kind);
  const key = { authorization: `Bearer ${kind.key}` };
  expect((await put(address, 'flyer.pdf', await file('pdf'))).status).toBe(401);
  expect((await put(address, 'flyer.pdf', await file('pdf'), key)).status).toBe(201);
  expect((await put(address, 'flyer.png', await file('png'), key)).detail).toBe('it takes PDF, no PNG');
  expect([...files.keys()]).toEqual(['flyer.pdf']);
});
