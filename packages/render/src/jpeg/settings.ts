/** Luminance and chrominance tables of ISO/IEC 10918-1 §K.1, in the zigzag order in which files hold them. */
const STANDARD = [
  [
    16, 11, 12, 14, 12, 10, 16, 14, 13, 14, 18, 17, 16, 19, 24, 40, 26, 24, 22, 22, 24, 49, 35, 37, 29, 40, 58, 51, 61,
    60, 57, 51, 56, 55, 64, 72, 92, 78, 64, 68, 87, 69, 55, 56, 80, 109, 81, 87, 95, 98, 103, 104, 103, 62, 77, 113,
    121, 112, 100, 120, 92, 101, 103, 99,
  ],
  [
    17, 18, 18, 24, 21, 24, 47, 26, 26, 47, 99, 66, 56, 66, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99,
    99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99,
    99, 99, 99, 99, 99, 99,
  ],
];

/** A standard table at a quality of 1 to 100, as libjpeg scales it. */
const scaled = (table: readonly number[], quality: number): number[] => {
  const scale = quality < 50 ? 5000 / quality : 200 - 2 * quality;
  return table.map((entry) => Math.min(255, Math.max(1, Math.floor((entry * scale + 50) / 100))));
};

/**
 * The settings with which a JPEG is written again without becoming coarser: the lowest quality whose tables are nowhere
 * coarser than its own, which is its own quality where it was written with the standard ones, and its subsampling.
 */
export function jpegSettings(bytes: Uint8Array): { quality: number; chromaSubsampling: '4:2:0' | '4:4:4' } {
  const tables: number[][] = [];
  let halved = false;
  for (let at = 2; at + 4 < bytes.length && bytes[at] === 0xff; ) {
    const marker = bytes[at + 1];
    const end = at + 2 + ((bytes[at + 2] << 8) | bytes[at + 3]);
    if (marker === 0xdb) {
      for (let i = at + 4; i < end; ) {
        const wide = bytes[i] >> 4 ? 2 : 1;
        tables[bytes[i] & 15] = Array.from({ length: 64 }, (_, n) =>
          wide === 2 ? (bytes[i + 1 + n * 2] << 8) | bytes[i + 2 + n * 2] : bytes[i + 1 + n],
        );
        i += 1 + 64 * wide;
      }
    } else if (marker >= 0xc0 && marker <= 0xc2) halved = bytes[at + 9] === 3 && bytes[at + 11] === 0x22;
    else if (marker === 0xda) break;
    at = end;
  }
  const asFine = (quality: number) =>
    STANDARD.every((table, id) => {
      const own = tables[id];
      return !own || scaled(table, quality).every((entry, i) => entry <= own[i]);
    });
  let quality = 1;
  while (quality < 100 && !asFine(quality)) quality++;
  return { quality: tables.length > 0 ? quality : 95, chromaSubsampling: halved ? '4:2:0' : '4:4:4' };
}
