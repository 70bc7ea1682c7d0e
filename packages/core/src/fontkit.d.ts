/** What is used of fontkit, which brings no types of its own. */
declare module 'fontkit' {
  interface Glyph {
    id: number;
    codePoints: number[];
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
    xHeight: number;
    glyphForCodePoint(codePoint: number): Glyph;
    layout(
      text: string,
      features?: Record<string, boolean>,
    ): { glyphs: Glyph[]; positions: { xAdvance: number; xOffset: number; yOffset: number }[] };
    hasGlyphForCodePoint(codePoint: number): boolean;
  }
  export function create(bytes: Uint8Array): Font;
}

/** The tokenizer and the decoders of css-tree, which its types leave out. */
declare module 'css-tree/tokenizer' {
  type TokenName =
    | 'LeftCurlyBracket'
    | 'RightCurlyBracket'
    | 'LeftSquareBracket'
    | 'RightSquareBracket'
    | 'CDO'
    | 'CDC'
    | 'Ident'
    | 'Function'
    | 'AtKeyword'
    | 'Hash'
    | 'String'
    | 'BadString'
    | 'Url'
    | 'BadUrl'
    | 'Delim'
    | 'Number'
    | 'Percentage'
    | 'Dimension'
    | 'WhiteSpace'
    | 'Colon'
    | 'Semicolon'
    | 'Comma'
    | 'LeftParenthesis'
    | 'RightParenthesis'
    | 'Comment';
  export const tokenTypes: Record<TokenName, number>;
  export function tokenize(source: string, onToken: (type: number, start: number, end: number) => void): void;
}
declare module 'css-tree/utils' {
  type Coder = { decode(text: string): string; encode(text: string): string };
  export const ident: Coder;
  export const string: Coder;
  export const url: Coder;
}
