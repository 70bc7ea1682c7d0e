/** Codes of up to so many bits are looked up at once. */
const FAST_BITS = 9;
const LONGEST_CODE = 16;

/** A Huffman table of a JPEG (ITU-T T.81 §C): the symbols with their codes, as they are looked up. */
export type HuffmanTable = {
  /** By the next bits: the symbol and, above it, the length of its code; 0 where the code is longer. */
  fast: Uint16Array;
  /** By length: the last code of that length, or −1, and what is added to a code to get the place of its symbol. */
  last: Int32Array;
  offset: Int32Array;
  symbols: Uint8Array;
};

/** A table from how many codes there are of each length, 1 to 16 bits, and the symbols in the order of their codes. */
export function huffmanTable(counts: Uint8Array, symbols: Uint8Array): HuffmanTable {
  const fast = new Uint16Array(1 << FAST_BITS);
  const last = new Int32Array(LONGEST_CODE + 1).fill(-1);
  const offset = new Int32Array(LONGEST_CODE + 1);
  let code = 0;
  let place = 0;
  for (let length = 1; length <= LONGEST_CODE; length++, code <<= 1) {
    offset[length] = place - code;
    for (let i = 0; i < counts[length - 1]; i++, code++, place++) {
      if (length > FAST_BITS) continue;
      const from = code << (FAST_BITS - length);
      fast.fill((length << 8) | symbols[place], from, from + (1 << (FAST_BITS - length)));
    }
    if (counts[length - 1] > 0) last[length] = code - 1;
    if (code > 1 << length) throw new Error('a table of codes that cannot be');
  }
  return { fast, last, offset, symbols };
}

/** The bits of an entropy-coded segment (ITU-T T.81 §F.2.2.5), from the first of its bytes to before the next marker. */
export class CodedBits {
  private held = 0;
  private count = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private at: number,
    private readonly end: number,
  ) {}

  /** The next symbol. Throws where the segment ends, or where its bits are no code. */
  symbol({ fast, last, offset, symbols }: HuffmanTable): number {
    this.fill();
    const known = fast[(this.held << (32 - this.count)) >>> (32 - FAST_BITS)];
    if (known !== 0 && known >> 8 <= this.count) {
      this.count -= known >> 8;
      return known & 255;
    }
    for (let length = 1; length <= LONGEST_CODE && length <= this.count; length++) {
      const code = (this.held << (32 - this.count)) >>> (32 - length);
      if (code > last[length]) continue;
      this.count -= length;
      return symbols[code + offset[length]];
    }
    throw new Error('its coded data are damaged');
  }

  /** Passes over bits. */
  skip(bits: number): void {
    this.fill();
    if (bits > this.count) throw new Error('its coded data end too soon');
    this.count -= bits;
  }

  /** Passes over what fills the last byte; answers whether nothing else is left. */
  isDone(): boolean {
    return this.at >= this.end && this.count < 8;
  }

  /** Holds at least 17 bits, while there are as many: the longest code, or the longest value. */
  private fill(): void {
    while (this.count <= 16 && this.at < this.end) {
      const byte = this.bytes[this.at++];
      // A byte of ones is followed by a stuffed 0.
      if (byte === 0xff) this.at++;
      this.held = ((this.held << 8) | byte) & 0x1ffffff;
      this.count += 8;
    }
  }
}
