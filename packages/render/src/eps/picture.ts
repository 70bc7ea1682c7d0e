import { deflateSync } from 'node:zlib';
import { MAX_PIXELS } from '@tolvik/core';
import type { RenderJob } from '../job';
import { rasterise, resized } from '../rasterise';

/** Pictures have about so many dots to the inch, fewer where they would be too large. */
const DPI = 300;
const LINE = 72;

/** The drawing as one picture on white, in text (PostScript Language Reference, third edition, §4.10). */
export function pictureProgram(
  { svg, widthPx, heightPx }: RenderJob,
  widthPt: number,
  heightPt: number,
): { program: string; level: 3 } {
  const most = Math.sqrt(MAX_PIXELS / 4 / (widthPx * heightPx));
  const scale = Math.min(DPI / 96, most);
  const [width, height] = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * scale)));
  const { data } = rasterise(resized(svg, width, height), width, height);
  const rgb = Buffer.alloc(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    const ground = 255 - data[4 * i + 3];
    for (let channel = 0; channel < 3; channel++) rgb[3 * i + channel] = data[4 * i + channel] + ground;
  }
  const program = `${widthPt} ${heightPt} scale
/DeviceRGB setcolorspace
<< /ImageType 1 /Width ${width} /Height ${height} /BitsPerComponent 8 /Decode [0 1 0 1 0 1]
/ImageMatrix [${width} 0 0 ${-height} 0 ${height}] /DataSource currentfile /ASCII85Decode filter /FlateDecode filter >> image
${ascii85(deflateSync(rgb, { level: 9 }))}`;
  return { program, level: 3 };
}

/** Bytes in 7-bit text (§3.13.3), in lines that begin with no percent sign. */
function ascii85(bytes: Buffer): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 4) {
    const left = Math.min(4, bytes.length - at);
    let value = 0;
    for (let i = 0; i < 4; i++) value = value * 256 + (i < left ? bytes[at + i] : 0);
    if (value === 0 && left === 4) {
      text += 'z';
      continue;
    }
    let group = '';
    for (let i = 0; i < 5; i++) {
      group = String.fromCharCode(33 + (value % 85)) + group;
      value = Math.floor(value / 85);
    }
    text += group.slice(0, left + 1);
  }
  const lines = (text.match(new RegExp(`.{1,${LINE}}`, 'g')) ?? []).map((line) =>
    line.startsWith('%') ? ` ${line}` : line,
  );
  return `${lines.join('\n')}\n~>`;
}
