import { outlineHere, withInkOutlines } from '@tolvik/render';
import { maskedLogo, randomLogo } from '../packages/render/test/support/random-logo';

const LOGOS = 100;

/** How many random logos in one ink become outlines in a second on one core, each held against its picture. */
export async function outlinesASecond(): Promise<number> {
  const logos = Array.from({ length: LOGOS }, (_, i) => maskedLogo(randomLogo(50_000 + i)));
  // The kernel comes up once in a process.
  await withInkOutlines(logos.pop() as string, outlineHere);
  const from = performance.now();
  for (const logo of logos) await withInkOutlines(logo, outlineHere);
  return (logos.length * 1000) / (performance.now() - from);
}
