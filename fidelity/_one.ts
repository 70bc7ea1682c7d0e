import { readFileSync } from 'node:fs';
import { renderFile, shippedFonts } from '@tolvik/render';
import { throughTheChain } from './chain';

const c = await throughTheChain(readFileSync(process.argv[2]), 'x', 160, shippedFonts(import.meta.url), (job) => {
  if (job.settings.format === 'png') console.log('COMPOSED', job.svg);
  return renderFile(job);
});
console.log('SVG', c.svg.bytes.toString());
console.log(c.told, c.widthPx, c.heightPx, c.svg.widthPx, c.pdf.widthPx);
