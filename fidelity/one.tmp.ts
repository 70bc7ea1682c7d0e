import { readFileSync, writeFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { shippedFonts } from '@tolvik/render';
import { throughTheChain } from './chain';
import { DrawnByBrowser } from './browser';
import { judge } from './measure';
const b = await DrawnByBrowser.start(160);
for (const f of process.argv.slice(2)) {
  const bytes = readFileSync(f);
  const name = f.split('/').pop()?.replace('.svg', '') ?? '';
  const c = await throughTheChain(bytes, 'x.svg', 160, shippedFonts(import.meta.url));
  writeFileSync(`/tmp/one/${name}.svg`, c.svg.bytes); writeFileSync(`/tmp/one/${name}.pdf`, c.pdf.bytes); writeFileSync(`/tmp/one/${name}.made.png`, c.png.bytes);
  const [r] = await judge([{ name, bytes }], b, shippedFonts(import.meta.url), undefined, (n, ps) => {
    const list = ['source', 'svg', 'png', 'pdf'] as const; const { width: w, height: h } = ps.source;
    const out = new PNG({ width: w * 4 + 30, height: h });
    list.forEach((k, i) => { for (let y = 0; y < h; y++) out.data.set(ps[k].data.subarray(y * w * 4, (y + 1) * w * 4), (y * out.width + i * (w + 10)) * 4); });
    writeFileSync(`/tmp/one/${n}.png`, PNG.sync.write(out));
  });
  const c2 = await throughTheChain(c.svg.bytes, 'x.svg', 160, shippedFonts(import.meta.url));
  writeFileSync(`/tmp/one/${name}.again.svg`, c2.svg.bytes);
  console.log(JSON.stringify(r));
}
process.exit(0);
