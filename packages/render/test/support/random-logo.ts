/** Random logos in black and white, as the mask of one ink is composed: what a designer draws, and what upsets a geometry kernel. */

/** Numbers from 0 to 1, the same for the same seed (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

export type Logo = { defs: string; body: string; width: number; height: number };

/** A logo as the composer writes one ink: a rectangle of the ink's colour behind the mask. */
export const maskedLogo = ({ defs, body, width, height }: Logo): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${defs}<defs><mask id="ink.1" maskUnits="userSpaceOnUse" x="0" y="0" width="${width}" height="${height}">${body}</mask></defs><rect width="${width}" height="${height}" fill="#5b2a4f" mask="url(#ink.1)"/></svg>`;

/** `letters` are outlines of letters as path data about 100 px large, to be used beside shapes. */
export function randomLogo(seed: number, letters: readonly string[] = []): Logo {
  const random = seeded(seed);
  const side = [24, 48, 100, 240, 600][Math.floor(random() * 5)];
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)];
  // Half of all logos lie on a grid, so that edges touch and borders are shared.
  const grid = random() < 0.5 ? side / 12 : 0;
  const at = () => {
    const value = random() * side;
    return +(grid ? Math.round(value / grid) * grid : value).toFixed(3);
  };
  const length = (share: number) => {
    const value = random() * share * side + side * 0.02;
    return +(grid ? Math.max(grid, Math.round(value / grid) * grid) : value).toFixed(3);
  };
  const made: string[] = [];
  const shape = (): string => {
    switch (Math.floor(random() * 9)) {
      case 0:
        return `<rect x="${at()}" y="${at()}" width="${length(0.6)}" height="${length(0.6)}"${random() < 0.4 ? ` rx="${length(0.1)}"` : ''}`;
      case 1:
        return `<circle cx="${at()}" cy="${at()}" r="${length(0.35)}"`;
      case 2:
        return `<ellipse cx="${at()}" cy="${at()}" rx="${length(0.35)}" ry="${length(0.2)}"`;
      case 3:
        return `<path d="M${at()} ${at()}${Array.from({ length: 2 + Math.floor(random() * 5) }, () => `L${at()} ${at()}`).join('')}Z"`;
      case 4:
        return `<path d="M${at()} ${at()}${Array.from({ length: 1 + Math.floor(random() * 4) }, () => `C${at()} ${at()} ${at()} ${at()} ${at()} ${at()}`).join('')}Z"`;
      case 5: {
        // Holes in holes.
        const [x, y, r] = [at(), at(), length(0.4)];
        const ring = (radius: number) =>
          `M${x + radius} ${y}A${radius} ${radius} 0 1 1 ${x - radius} ${y}A${radius} ${radius} 0 1 1 ${x + radius} ${y}Z`;
        return `<path fill-rule="evenodd" d="${[1, 0.7, 0.4].map((share) => ring(r * share)).join('')}"`;
      }
      case 6:
        return `<path d="M${at()} ${at()}A${length(0.4)} ${length(0.3)} ${Math.floor(random() * 90)} ${pick([0, 1])} ${pick([0, 1])} ${at()} ${at()}Q${at()} ${at()} ${at()} ${at()}"`;
      case 7:
        return `<polygon points="${Array.from({ length: 5 }, (_, i) => `${(side / 2 + Math.cos((i * 4 * Math.PI) / 5) * side * 0.4).toFixed(3)} ${(side / 2 + Math.sin((i * 4 * Math.PI) / 5) * side * 0.4).toFixed(3)}`).join(' ')}"${random() < 0.5 ? ' fill-rule="evenodd"' : ''}`;
      default:
        return letters.length > 0
          ? `<path transform="matrix(${[1, 0, 0, 1].map((value) => +((value * side) / 240).toFixed(4)).join(' ')} ${at()} ${at()})" d="${pick(letters)}"`
          : `<line x1="${at()}" y1="${at()}" x2="${at()}" y2="${at()}" stroke="#ffffff" stroke-width="${length(0.06)}"`;
    }
  };
  const stroke = (colour: string) => {
    const dash =
      random() < 0.3
        ? ` stroke-dasharray="${Array.from({ length: pick([1, 2, 2, 2, 3, 4]) }, () => length(0.08)).join(' ')}" stroke-dashoffset="${pick([0, 0, length(0.1)])}"`
        : '';
    return ` stroke="${colour}" stroke-width="${+(length(0.05) * pick([0.5, 1, 2])).toFixed(3)}" stroke-linejoin="${pick(['miter', 'round', 'bevel'])}" stroke-linecap="${pick(['butt', 'round', 'square'])}"${dash}`;
  };
  const count = 2 + Math.floor(random() * 11);
  const clips: string[] = [];
  for (let i = 0; i < count; i++) {
    const colour = random() < 0.3 && i > 0 ? '#000000' : '#ffffff';
    const own = shape();
    const kind = random();
    const paint =
      kind < 0.72
        ? ` fill="${colour}"`
        : kind < 0.9
          ? ` fill="none"${stroke(colour)}`
          : ` fill="${colour}"${stroke(random() < 0.5 ? colour : '#000000')}`;
    let element = `${own.replace(/ stroke="[^"]*" stroke-width="[^"]*"$/, kind < 0.72 ? '$&' : '')}${/^<line/.test(own) && kind < 0.72 ? '' : paint}/>`;
    if (random() < 0.2)
      element = `<g transform="${pick([`rotate(${Math.floor(random() * 360)} ${side / 2} ${side / 2})`, `translate(${at() / 4} ${at() / 4})`, 'scale(1.3 0.7)', 'skewX(20)'])}">${element}</g>`;
    if (random() < 0.1) {
      const clip = shape();
      if (!clip.startsWith('<line')) {
        clips.push(`<clipPath id="c${i}">${clip.replace('fill-rule', 'clip-rule')}/></clipPath>`);
        element = `<g clip-path="url(#c${i})">${element}</g>`;
      }
    }
    made.push(element);
    // The same again, hardly beside itself.
    if (random() < 0.08) made.push(`<g transform="translate(${pick([0, 0.001, 0.01])} 0)">${element}</g>`);
  }
  return {
    defs: clips.length > 0 ? `<defs>${clips.join('')}</defs>` : '',
    body: made.join(''),
    width: side,
    height: side,
  };
}
