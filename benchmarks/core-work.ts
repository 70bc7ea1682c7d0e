import {
  type Artboard,
  type Layer,
  NO_FONTS,
  newId,
  outputRecord,
  ProjectDocument,
  placeFiles,
  planFiles,
  readSvg,
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
