import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  Composer,
  documentFonts,
  outputRecord,
  ProjectDocument,
  placeFiles,
  planFiles,
  type ReadArtwork,
  readSvg,
  specRecord,
} from '@tolvik/core';
import { renderFile } from '@tolvik/render';
import { PNG } from 'pngjs';
import { shippedFonts } from '../../packages/render/src/shipped-fonts';
import { throughTheChain, wholeWidth } from '../chain';
import { largestDifference } from '../compare';

/** What the third decimal of a coordinate may change in a channel, of 255: the rasteriser smooths edges in four rows to a px. */
const ROUNDING = 64;

const FEATURES = join(__dirname, '../../packages/render/test/features');
const features = readdirSync(FEATURES).flatMap((topic) =>
  readdirSync(join(FEATURES, topic)).map((file) => ({
    name: `${topic}/${file.replace(/\.svg$/, '')}`,
    bytes: readFileSync(join(FEATURES, topic, file)),
  })),
);
const fonts = shippedFonts(__filename);

test('pictures are held against each other at a size of whole px, where there is one', () => {
  // 3 to 2 is whole at 159 × 106; so is it upright.
  expect(wholeWidth(513, 342, 160)).toBe(159);
  expect(wholeWidth(342, 513, 160)).toBe(106);
  expect(wholeWidth(24, 24, 160)).toBe(160);
  expect(wholeWidth(0.3, 0.15, 160)).toBe(160);
  // A line has one px; no ratio is so odd that the picture would be small.
  expect(wholeWidth(1, 5000, 160)).toBe(1);
  expect(wholeWidth(Math.PI * 100, 100, 160)).toBeGreaterThanOrEqual(140);
});

test('there are features of every part of the standard', () => {
  expect(features.length).toBeGreaterThanOrEqual(300);
  const topics = new Set(features.map(({ name }) => name.split('/')[0]));
  for (const topic of 'clipping colours compositing encodings filters geometry gradients markers masking painting patterns pictures shapes strokes structure styling text'.split(
    ' ',
  ))
    expect(topics).toContain(topic);
});

test('what we wrote, read and written again, is the same', async () => {
  const otherPixels: string[] = [];
  const otherBytes: string[] = [];
  for (const { name, bytes: source } of features) {
    const once = await throughTheChain(source, name, 64, fonts, renderFile, false);
    const twice = await throughTheChain(once.svg.bytes, name, 64, fonts, renderFile, false);
    const difference = largestDifference(PNG.sync.read(once.png.bytes), PNG.sync.read(twice.png.bytes));
    if (difference > ROUNDING) otherPixels.push(`${name} ${difference}`);
    if (!once.svg.bytes.equals(twice.svg.bytes)) otherBytes.push(name);
  }
  expect(otherPixels).toEqual([]);
  expect(otherBytes.length / features.length).toBeLessThan(0.1);
}, 600_000);

test('no file changes when others are brought in beside it', () => {
  const read = features.map(({ name, bytes }) => ({ name, artwork: readSvg(bytes, name) }));
  const composed = (files: readonly { name: string; artwork: ReadArtwork }[]) => {
    const doc = new ProjectDocument();
    const spec = specRecord.parse({ kind: 'spec', id: 'spec', order: 'a0', name: 'one' });
    const output = outputRecord.parse({
      kind: 'output',
      id: 'output',
      specId: 'spec',
      order: 'a0',
      size: { kind: 'factor', factor: 1 },
      settings: { format: 'png' },
    });
    doc.apply({ puts: [spec, output, ...placeFiles(doc, files, ['spec'])], removes: [] });
    const pictures = new Map(files.flatMap(({ artwork }) => artwork.blobs.map((blob) => [blob.hash, blob] as const)));
    const composer = new Composer(doc, {
      fonts: documentFonts(doc, fonts, () => undefined),
      pictures: (hash) => pictures.get(hash),
    });
    return planFiles(doc, 'beside').files.map((file) => composer.compose(file).svg);
  };
  for (let at = 0; at < read.length; at += 16) {
    const some = read.slice(at, at + 16);
    const together = composed(some);
    some.forEach((one, i) => expect([one.name, together[i]]).toEqual([one.name, composed([one])[0]]));
  }
}, 600_000);

test('artwork beyond its picture is in no file, and can be had back', async () => {
  const svg = (attrs: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20" ${attrs}><rect x="10" y="5" width="40" height="10" fill="#d2452f"/></svg>`;
  const cut = readSvg(svg(''), 'over.svg');
  const clip = cut.layers.find(({ tag }) => tag === 'clipPath');
  expect(clip?.name).toBe('Edge of the picture');
  expect(readSvg(svg('overflow="visible"'), 'over.svg').layers.some(({ tag }) => tag === 'clipPath')).toBe(false);
  expect(readSvg(svg('viewBox="0 0 60 60"'), 'inside.svg').layers.some(({ tag }) => tag === 'clipPath')).toBe(false);
  const made = await throughTheChain(Buffer.from(svg('')), 'over.svg', 20, fonts, renderFile);
  // The file's own edge cuts it there; no clip has to say so again.
  expect(made.svg.bytes.toString()).toMatch(/^<svg [^>]*viewBox="0 0 20 20"><path /);
});
