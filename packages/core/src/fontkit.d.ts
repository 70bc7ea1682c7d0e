/** What is used of fontkit, which brings no types of its own. */
declare module 'fontkit' {
  interface Glyph {
    path: { toSVG(): string; scale(x: number, y: number): { toSVG(): string } };
    advanceWidth: number;
  }
  interface Font {
    familyName: string;
    italicAngle: number;
    'OS/2'?: { usWeightClass: number; fsSelection?: { italic?: boolean } };
    variationAxes?: Record<string, unknown>;
    unitsPerEm: number;
    ascent: number;
    descent: number;
    layout(text: string): { glyphs: Glyph[]; positions: { xAdvance: number; xOffset: number; yOffset: number }[] };
    hasGlyphForCodePoint(codePoint: number): boolean;
  }
  export function create(bytes: Uint8Array): Font;
}
