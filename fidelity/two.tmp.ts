import { readFileSync } from 'node:fs';
import { readTree, printTree, readSvg } from '@tolvik/core';
import { withSharedParts } from '../packages/render/src/svg/share';
import { svgoConfig } from '../packages/render/src/formats/svg';
import { optimize } from 'svgo';
import * as chain from './chain';
import { shippedFonts } from '@tolvik/render';
for (const f of process.argv.slice(2)) {
  let composed = '';
  await chain.throughTheChain(readFileSync(f), 'x.svg', 160, shippedFonts(import.meta.url), async (job) => { if (!composed) composed = job.svg; return { bytes: Buffer.from(''), measured: { widthPx: 1, heightPx: 1 } } as any; }).catch(() => 0);
  console.log('COMPOSED', composed);
  const shared = withSharedParts(readTree(composed).root);
  console.log('SHARED', shared ? printTree(shared) : null);
  let whole = shared ? printTree(shared) : composed;
  const config = svgoConfig({ layout: 'oneLine', decimals: 2 } as any, 3, { blends: false, strokes: /stroke="(?!none)/.test(composed), bakes: true });
  for (const p of config.plugins as any[]) { const next = optimize(whole, { ...config, plugins: [p] }).data; if (next !== whole) console.log(typeof p === 'string' ? p : p.name, '=>', next.slice(0, 900)); whole = next; }
}
process.exit(0);
