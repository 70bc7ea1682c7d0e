import { outlineHere, withInkOutlines } from '@tolvik/render';
import { randomLogo } from '../packages/render/test/support/random-logo';

const LOGOS = 100;

/** How many random logos in one ink become outlines in a second on one core, each held against its picture. */
export async function outlinesASecond(): Promise<number> {
  const logos = Array.from({ length: LOGOS }, (_, i) => {
    const { defs, body, width, height } = randomLogo(50_000 + i);
    return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${defs}<defs><mask id="ink.1" maskUnits="userSpaceOnUse" x="0" y="0" width="${width}" height="${height}">${body}</mask></defs><rect width="${width}" height="${height}" fill="#12343b" mask="url(#ink.1)"/></svg>`;
  });
  // The kernel comes up once in a process.
  await withInkOutlines(logos.pop() as string, outlineHere);
  const from = performance.now();
  for (const logo of logos) await withInkOutlines(logo, outlineHere);
  return (logos.length * 1000) / (performance.now() - from);
}
