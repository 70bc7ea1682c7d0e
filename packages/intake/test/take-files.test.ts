import { readArtwork, type Told } from '@tolvik/core';
import yazl from 'yazl';
import { type Incoming, takeFiles } from '../src';

const svg = (inner = '<rect width="9" height="9"/>') =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">${inner}</svg>`);
/** The smallest PNG there is, 1 × 1 px. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

function zip(files: Record<string, Buffer>): Promise<Buffer> {
  const made = new yazl.ZipFile();
  for (const [name, bytes] of Object.entries(files)) made.addBuffer(bytes, name);
  made.end();
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    made.outputStream.on('data', (chunk: Buffer) => chunks.push(chunk));
    made.outputStream.on('end', () => resolve(Buffer.concat(chunks)));
    made.outputStream.on('error', reject);
  });
}

const read = ({ name, bytes }: Incoming): { layers: number; dropped: Told[] } => {
  const { layers, dropped } = readArtwork(bytes, name);
  return { layers: layers.length, dropped };
};

test('files, pictures and what is in zips come in one after the other, each told of by itself', async () => {
  const seen: [number, number][] = [];
  const { taken, report } = await takeFiles(
    [
      { name: 'icons/anchor.svg', bytes: svg() },
      {
        name: 'more.zip',
        bytes: await zip({
          'a/boat.svg': svg('<script/>'),
          'a/photo.png': PNG,
          '.DS_Store': PNG,
          'broken.svg': Buffer.from('<svg'),
        }),
      },
      { name: 'empty.svg', bytes: Buffer.alloc(0) },
    ],
    { read, onRead: (done, of) => seen.push([done, of]) },
  );
  expect(taken.map(({ name }) => name)).toEqual(['anchor', 'boat', 'photo']);
  expect(report.map(({ file, dropped, problem }) => [file, dropped.length, problem?.code])).toEqual([
    ['anchor.svg', 0, undefined],
    ['boat.svg', 1, undefined],
    ['photo.png', 0, undefined],
    ['broken.svg', 0, expect.stringContaining('svg.')],
    ['empty.svg', 0, 'file.empty'],
  ]);
  expect(seen.at(-1)).toEqual([5, 5]);
});

test('a zip that is none, one that climbs, and a reader that breaks: told of that file, and the others come in', async () => {
  const climbing = await zip({ 'aa/evil.svg': svg() });
  // The writer refuses such names, so it is made by hand.
  const bytes = Buffer.from(climbing.toString('latin1').replaceAll('aa/evil.svg', '../evil.svg'), 'latin1');
  const { taken, report } = await takeFiles(
    [
      { name: 'torn.zip', bytes: climbing.subarray(0, 30) },
      { name: 'climbs.zip', bytes },
      { name: 'odd.svg', bytes: svg() },
      { name: 'good.svg', bytes: svg() },
    ],
    {
      read: (file) => {
        if (file.name === 'odd.svg') throw new TypeError('no such thing');
        return read(file);
      },
    },
  );
  expect(report.map(({ problem }) => problem?.code)).toEqual(['zip.broken', 'zip.path', 'read.failed', undefined]);
  expect(taken.map(({ name }) => name)).toEqual(['good']);
});

test('who gives up gets nothing more', async () => {
  const gone = new AbortController();
  const files = [1, 2, 3].map((n) => ({ name: `${n}.svg`, bytes: svg() }));
  const all = takeFiles(files, { read, signal: gone.signal, onRead: () => gone.abort() });
  await expect(all).rejects.toThrow();
});
