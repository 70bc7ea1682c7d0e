import {
  type Artboard,
  editionRecord,
  type Layer,
  NO_FONTS,
  newId,
  outputRecord,
  ProjectDocument,
  placeFiles,
  planFiles,
  readSvg,
  replaceArtwork,
  replaceReport,
  sliceRecord,
  specRecord,
  troubleFinder,
} from '@tolvik/core';
import { OUTPUTS, type Source } from './server-process';

export const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

/** Milliseconds that work takes, the median of some times. */
export function millisecondsOf(times: number, work: (i: number) => void): number {
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const from = performance.now();
    work(i);
    all.push(performance.now() - from);
  }
  return median(all);
}

/** A piece of work that nothing of ours has a part in, in ms: how fast the machine is just now. */
export const machineMs = (): number =>
  millisecondsOf(5, () => {
    let seed = 1;
    const numbers = Array.from({ length: 200_000 }, () => (seed = (seed * 48_271) % 2_147_483_647));
    numbers.sort((a, b) => a - b);
    if (JSON.parse(JSON.stringify(numbers)).length !== numbers.length) throw new Error('numbers were lost');
  });

/** A project in memory with an artboard a source, all following the measured outputs. */
export function documentOf(sources: readonly Source[]): ProjectDocument {
  const doc = new ProjectDocument();
  const spec = specRecord.parse({ id: newId(), kind: 'spec', order: 'a0', name: 'Measured' });
  doc.apply({
    puts: [
      spec,
      ...OUTPUTS.map((output, i) =>
        outputRecord.parse({ id: newId(), kind: 'output', specId: spec.id, order: `a${i}`, ...output }),
      ),
    ],
    removes: [],
  });
  const artwork = sources.map(({ name, text }) => ({ name: name.replace(/\.svg$/, ''), artwork: readSvg(text, name) }));
  doc.apply({ puts: placeFiles(doc, artwork, [spec.id]), removes: [] });
  return doc;
}

/** The plan after an edit, every check over all pieces, and the checks again after one edit; in ms. */
export function planAndChecks(sources: readonly Source[]): {
  plan: number;
  allChecks: number;
  recheck: number;
  files: number;
} {
  const doc = documentOf(sources);
  const [artboard] = doc.list('artboard');
  const layer = doc.list('layer').find((each) => each.tag === 'path') as Layer;
  const plan = millisecondsOf(11, (i) => {
    doc.apply({ puts: [{ ...artboard, name: `renamed ${i}` } as Artboard], removes: [] });
    planFiles(doc, 'Benchmark');
  });
  const find = troubleFinder();
  const look = () => find({ doc, plan: planFiles(doc, 'Benchmark'), fonts: NO_FONTS });
  const from = performance.now();
  look();
  const allChecks = performance.now() - from;
  const times: number[] = [];
  for (let i = 0; i < 11; i++) {
    doc.apply({ puts: [{ ...layer, opacity: 0.5 + i / 100 }], removes: [] });
    const surroundings = { doc, plan: planFiles(doc, 'Benchmark'), fonts: NO_FONTS };
    const start = performance.now();
    find(surroundings);
    times.push(performance.now() - start);
  }
  return { plan, allChecks, recheck: median(times), files: planFiles(doc, 'Benchmark').files.length };
}

/** Milliseconds from 2,000 layers that come back moved and recoloured to the change, with 40 editions and 200 slices on them; and the number of layers that were known again. */
export function layersReplaced(): { ms: number; kept: number; asked: number } {
  const drawn = (dx: number, colour: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="800" viewBox="0 0 1000 800">${Array.from(
      { length: 2000 },
      (_, n) =>
        `<path d="M${(n % 50) * 20 + dx} ${Math.floor(n / 50) * 20}h${3 + (n % 7)}v${2 + (n % 11)}l-1 ${1 + (n % 13)}z" fill="${colour}"/>`,
    ).join('')}</svg>`;
  const doc = documentOf([{ name: 'many.svg', text: drawn(0, '#0c6a53') }]);
  const [artboard] = doc.list('artboard');
  const layers = doc.list('layer').filter(({ tag }) => tag === 'path');
  doc.apply({
    puts: [
      ...Array.from({ length: 40 }, (_, i) =>
        editionRecord.parse({
          id: newId(),
          kind: 'edition',
          artboardId: artboard.id,
          order: `a${i.toString(36).padStart(2, '0')}1`,
          name: `edition ${i}`,
          overrides: Object.fromEntries(layers.slice(i, i + 5).map(({ id }) => [id, { shown: false }])),
        }),
      ),
      ...layers.slice(0, 200).map((layer, i) =>
        sliceRecord.parse({
          id: newId(),
          kind: 'slice',
          order: `a${i.toString(36).padStart(3, '0')}1`,
          name: `slice ${i}`,
          source: { kind: 'layer', layerId: layer.id },
        }),
      ),
    ],
    removes: [],
  });
  const comes = readSvg(drawn(2, '#d2452f'), 'many.svg');
  let made = replaceArtwork(doc, artboard, comes);
  const ms = millisecondsOf(7, () => {
    made = replaceArtwork(doc, artboard, comes);
  });
  return { ms, kept: made.matches.length, asked: replaceReport(doc, artboard, comes, made).loose.length };
}
