/** Emblems of two to five colours, drawn for trying: how parts meet, overlap, touch the ground and lie in one another. */
const disc = (x: number, y: number, r: number, fill: string) => `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;
const box = (x: number, y: number, w: number, h: number, fill: string, rx = 0) =>
  `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}"${rx ? ` rx="${rx}"` : ''}/>`;
const path = (d: string, fill: string, more = '') => `<path d="${d}" fill="${fill}"${more}/>`;
const line = (d: string, stroke: string, width: number, more = '') =>
  `<path d="${d}" fill="none" stroke="${stroke}" stroke-width="${width}"${more}/>`;
const ring = (x: number, y: number, r: number, stroke: string, width: number) =>
  `<circle cx="${x}" cy="${y}" r="${r}" fill="none" stroke="${stroke}" stroke-width="${width}"/>`;
const star = (x: number, y: number, r: number, fill: string, points = 5) =>
  path(
    `${Array.from({ length: points * 2 }, (_, i) => {
      const angle = (Math.PI * i) / points - Math.PI / 2;
      const reach = i % 2 ? r * 0.45 : r;
      return `${i ? 'L' : 'M'}${(x + reach * Math.cos(angle)).toFixed(2)} ${(y + reach * Math.sin(angle)).toFixed(2)}`;
    }).join('')}z`,
    fill,
  );

const [PINE, SAND, CORAL, SEA, NIGHT, SNOW] = ['#0c6a53', '#e8d5a9', '#d2452a', '#3d8fb5', '#14232b', '#fbf8ef'];
const [PLUM, MOSS, OCHRE, SLATE, ROSE] = ['#5b2a4f', '#7c8f3a', '#c98a1b', '#55636b', '#e7a8a0'];

export const EMBLEMS: Readonly<Record<string, string>> = {
  'letter on a disc': disc(50, 50, 44, PINE) + path('M34 74V26h14c14 0 20 8 20 16s-6 15-20 15h-4v17z', SAND),
  'two halves': path('M50 6a44 44 0 0 0 0 88z', PINE) + path('M50 6a44 44 0 0 1 0 88z', SAND),
  'three stripes': box(10, 20, 26, 60, PINE) + box(36, 20, 28, 60, SAND) + box(64, 20, 26, 60, CORAL),
  'four quarters':
    box(10, 10, 40, 40, PINE) + box(50, 10, 40, 40, SAND) + box(10, 50, 40, 40, CORAL) + box(50, 50, 40, 40, SEA),
  'disc over disc': disc(38, 50, 30, PINE) + disc(62, 50, 30, CORAL),
  'three discs': disc(50, 36, 24, PINE) + disc(36, 62, 24, CORAL) + disc(64, 62, 24, SEA),
  'star in a ring': disc(50, 50, 44, NIGHT) + disc(50, 50, 36, SNOW) + star(50, 50, 30, CORAL),
  'rings in rings': disc(50, 50, 44, PINE) + disc(50, 50, 33, SAND) + disc(50, 50, 22, CORAL) + disc(50, 50, 11, NIGHT),
  'leaf with a vein': path('M16 84C10 40 40 12 86 14 90 60 60 90 16 84z', MOSS) + line('M16 84L70 30', SAND, 5),
  'leaf of two halves': path('M16 84C10 40 40 12 86 14z', MOSS) + path('M16 84L86 14C90 60 60 90 16 84z', PINE),
  'shield by bends':
    path('M14 10h72v40c0 22-16 34-36 42-20-8-36-20-36-42z', SEA) + path('M14 40L86 10v26L22 70z', SNOW),
  'shield per pale': path('M14 10h36v82c-20-8-36-20-36-42z', CORAL) + path('M50 10h36v40c0 22-16 34-36 42z', OCHRE),
  'flag on a pole': box(14, 6, 6, 88, SLATE) + box(20, 10, 64, 44, CORAL) + box(20, 26, 64, 12, SNOW),
  'sun over water':
    disc(50, 46, 28, OCHRE) + path('M6 58c15-10 29 10 44 0s29-10 44 0v30H6z', SEA) + line('M10 74h80', SNOW, 4),
  'mountain with snow': path('M6 86L50 14l44 72z', SLATE) + path('M50 14l16 26-8-3-8 8-8-8-8 3z', SNOW),
  'two mountains': path('M4 86L36 26l32 60z', SLATE) + path('M34 86l30-46 32 46z', PINE),
  'wave in a square':
    box(8, 8, 84, 84, NIGHT, 14) +
    path('M8 56c14-16 28 16 42 0s28-16 42 0v22a14 14 0 0 1-14 14H22A14 14 0 0 1 8 78z', SEA),
  'key on a tag': box(10, 26, 80, 48, PLUM, 24) + ring(36, 50, 10, ROSE, 5) + line('M46 50h30m-8 0v9', ROSE, 5),
  'drop with a shine':
    path('M50 6c20 30 30 42 30 56a30 30 0 0 1-60 0c0-14 10-26 30-56z', SEA) + line('M34 62a16 16 0 0 0 14 16', SNOW, 5),
  eye: path('M4 50c24-40 68-40 92 0-24 40-68 40-92 0z', SNOW) + disc(50, 50, 22, SEA) + disc(50, 50, 10, NIGHT),
  'flower of five':
    [0, 72, 144, 216, 288]
      .map(
        (turn, i) =>
          `<g transform="rotate(${turn} 50 50)">${path('M50 50C34 34 38 8 50 6c12 2 16 28 0 44z', [PINE, CORAL, SEA, OCHRE, PLUM][i])}</g>`,
      )
      .join('') + disc(50, 50, 9, SNOW),
  'petals side by side': [0, 60, 120, 180, 240, 300]
    .map(
      (turn, i) =>
        `<g transform="rotate(${turn} 50 50)">${path('M50 50L26 10a46 46 0 0 1 48 0z', i % 2 ? ROSE : PLUM)}</g>`,
    )
    .join(''),
  'pie of three':
    path('M50 50V6a44 44 0 0 1 38 66z', PINE) +
    path('M50 50l38 22a44 44 0 0 1-76 0z', SAND) +
    path('M50 50L12 72A44 44 0 0 1 50 6z', CORAL),
  'bars that grow':
    box(12, 58, 18, 32, SEA) + box(30, 42, 18, 48, PINE) + box(48, 26, 18, 64, OCHRE) + box(66, 10, 18, 80, CORAL),
  'crossed sticks': line('M18 18l64 64', PINE, 12) + line('M82 18L18 82', CORAL, 12),
  'chain of two': ring(36, 50, 22, SLATE, 9) + ring(64, 50, 22, OCHRE, 9),
  'outlined disc': `<circle cx="50" cy="50" r="38" fill="${SAND}" stroke="${NIGHT}" stroke-width="8"/>${star(50, 50, 24, CORAL, 6)}`,
  envelope: box(8, 22, 84, 56, SEA, 6) + path('M8 26l42 30 42-30v-4H8z', SNOW) + disc(82, 24, 14, CORAL),
  cup:
    path('M16 30h56v34a20 20 0 0 1-20 20H36a20 20 0 0 1-20-20z', CORAL) +
    line('M72 38h8a10 10 0 0 1 0 26h-8', SLATE, 7) +
    line('M32 20c0-8 6-6 6-14M50 20c0-8 6-6 6-14', OCHRE, 5),
  tower:
    box(30, 30, 40, 60, SLATE) +
    path('M24 30l26-24 26 24z', CORAL) +
    box(42, 62, 16, 28, NIGHT) +
    box(44, 40, 12, 12, OCHRE),
  bird:
    path('M8 60c20-40 60-44 84-30-18 2-22 12-24 26-4 26-40 30-60 4z', SEA) +
    path('M30 56c10-16 28-16 36-4-10 12-26 14-36 4z', NIGHT) +
    disc(74, 36, 4, SNOW),
  fish:
    path('M8 50c16-30 48-30 62 0-14 30-46 30-62 0z', CORAL) + path('M66 50l26-20v40z', OCHRE) + disc(26, 46, 5, SNOW),
  lamp:
    disc(50, 40, 30, OCHRE) +
    box(38, 66, 24, 10, SLATE) +
    box(40, 76, 20, 8, NIGHT) +
    line('M42 44l8 10 8-10', SNOW, 4),
  stairs: path('M10 90V70h20V50h20V30h20V10h20v80z', PLUM) + path('M10 90l80-80v80z', ROSE),
  'tilted squares': `<g transform="rotate(20 50 50)">${box(18, 18, 64, 64, PINE)}</g><g transform="rotate(45 50 50)">${box(28, 28, 44, 44, SAND)}</g>${box(38, 38, 24, 24, CORAL)}`,
  'half seen through': `${disc(40, 50, 30, PINE)}<circle cx="62" cy="50" r="28" fill="${CORAL}" fill-opacity="0.85"/>`,
  'clipped stripes': `<clipPath id="c"><circle cx="50" cy="50" r="42"/></clipPath><g clip-path="url(#c)">${box(0, 0, 100, 34, SEA)}${box(0, 34, 100, 33, SNOW)}${box(0, 67, 100, 33, CORAL)}</g>`,
  'shaded ball': `<radialGradient id="g"><stop stop-color="${ROSE}"/><stop offset="1" stop-color="${CORAL}"/></radialGradient><circle cx="50" cy="50" r="40" fill="url(#g)"/>${line('M14 50c20 16 52 16 72 0', NIGHT, 6)}`,
  'neighbours in one tone': box(8, 20, 42, 60, PINE) + box(50, 20, 42, 60, '#0e6e57') + disc(50, 50, 16, SAND),
  mosaic: [0, 1, 2, 3]
    .flatMap((row) =>
      [0, 1, 2, 3].map((column) =>
        box(10 + column * 20, 10 + row * 20, 20, 20, [PINE, SAND, CORAL, SEA, NIGHT][(row * 3 + column) % 5]),
      ),
    )
    .join(''),
  'hexagon of three':
    path('M50 50L12 28 50 6l38 22z', SAND) +
    path('M50 50L12 28v44l38 22z', PINE) +
    path('M50 50l38-22v44L50 94z', MOSS),
  'one ring round another': ring(50, 50, 38, NIGHT, 10) + ring(50, 50, 28, CORAL, 10) + disc(50, 50, 23, OCHRE),
};

export const emblem = (inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100" viewBox="0 0 100 100">${inner}</svg>`;
