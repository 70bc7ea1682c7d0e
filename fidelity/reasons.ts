/** Why a format draws some features otherwise than the browser, where it is not the drawing that is at fault. By the name of the feature. */
const REASONS: readonly [which: RegExp, formats: readonly ('svg' | 'png' | 'pdf')[], reason: string][] = [
  [
    /^clipping\/text/,
    ['svg', 'pdf'],
    'letters that clip: the browser clips by letters with a mask, and by the paths they become at their edge, where what lies below shines through',
  ],
  [/^markers\/context-fill/, ['svg', 'png'], 'edges of clips that fall on the edge of a stroke, by a px'],
  [
    /^geometry\/root-(fractional|mm)/,
    ['png', 'pdf'],
    'sizes between px: the browser rounds a page to whole px, our files do not',
  ],
  [
    /^clipping\//,
    ['png', 'pdf'],
    'edges of clips: the browser lets what lies below shine through where two edges fall together, the rasteriser does not',
  ],
  [
    /^filters\/(convolve|diffuse-lighting|morphology|tile|blend|composite)/,
    ['pdf'],
    'filters that measure in px: drawn at 600 dpi for PDF, at the size of the screen by the browser',
  ],
  [/^text\/bold/, ['png'], 'edges of letters, smoothed by another rule'],
  [/^geometry\/hairlines/, ['pdf'], 'strokes thinner than a px: the PDF renderer makes them a px wide'],
  [/^gradients\/|^strokes\/gradient/, ['pdf'], 'hard steps of gradients: the PDF renderer smooths them over a px'],
  [
    /^pictures\/(gif|png-palette-alpha|png-alpha|webp-alpha)/,
    ['pdf'],
    'enlarged pictures with transparency: PDF smooths colour and transparency apart',
  ],
  [/^strokes\/dash|^markers\//, ['pdf'], 'ends of dashes and edges that meet, within a px'],
];

export const reasonFor = (name: string, format: string): string | undefined =>
  REASONS.find(([which, formats]) => which.test(name) && (formats as readonly string[]).includes(format))?.[2];
