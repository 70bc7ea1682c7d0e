import { CodedBits, type HuffmanTable, huffmanTable } from './huffman';

export type JpegFacts = { widthPx: number; heightPx: number; channels: number; dpi: number | null };

type Component = { id: number; across: number; down: number; dc: number; ac: number };

/** Lengths of 16 bits, as everywhere in the format (ITU-T T.81 §B.1.1). */
const two = (bytes: Uint8Array, at: number): number => (bytes[at] << 8) | bytes[at + 1];

/**
 * The facts of a baseline JPEG (ITU-T T.81), every coded block of it decoded as far as its code goes: what is missing,
 * too much or no code is found, without making pixels of it. Null for a file of another process, such as a progressive
 * one. Throws where the file is damaged.
 */
export function measureJpeg(bytes: Uint8Array): JpegFacts | null {
  if (two(bytes, 0) !== 0xffd8) throw new Error('it does not begin as a JPEG');
  const tables = new Map<number, HuffmanTable>();
  let frame: { widthPx: number; heightPx: number; components: Component[] } | null = null;
  let restartEvery = 0;
  let dpi: number | null = null;
  for (let at = 2; ; ) {
    if (at + 4 > bytes.length || bytes[at] !== 0xff) throw new Error('it ends too soon');
    const marker = bytes[at + 1];
    const end = at + 2 + two(bytes, at + 2);
    if (end > bytes.length) throw new Error('it ends too soon');
    const from = at + 4;
    if (marker === 0xe0) dpi = densityOf(bytes, from) ?? dpi;
    else if (marker === 0xc4) readTables(bytes, from, end, tables);
    else if (marker === 0xdd) restartEvery = two(bytes, from);
    else if (marker === 0xc0) frame = readFrame(bytes, from);
    else if (marker >= 0xc1 && marker <= 0xcf && marker !== 0xc8 && marker !== 0xcc) return null;
    else if (marker === 0xda) {
      if (!frame) throw new Error('its picture begins before its size is said');
      // All components in one scan is what encoders write; others are for another decoder.
      if (bytes[from] !== frame.components.length) return null;
      for (let i = 0; i < bytes[from]; i++) {
        const component = frame.components.find(({ id }) => id === bytes[from + 1 + i * 2]);
        if (!component) throw new Error('its picture has a channel that is not in it');
        component.dc = bytes[from + 2 + i * 2] >> 4;
        component.ac = 0x10 | (bytes[from + 2 + i * 2] & 15);
      }
      const { widthPx, heightPx, components } = frame;
      readBlocks(bytes, end, widthPx, heightPx, components, tables, restartEvery);
      return { widthPx, heightPx, channels: components.length, dpi };
    }
    at = end;
  }
}

/** Density of a JFIF header in dots per inch (JFIF 1.02); null when it says none. */
function densityOf(bytes: Uint8Array, at: number): number | null {
  if (String.fromCharCode(...bytes.subarray(at, at + 5)) !== 'JFIF\0') return null;
  const density = two(bytes, at + 8);
  return bytes[at + 7] === 1 ? density : bytes[at + 7] === 2 ? density * 2.54 : null;
}

/** Tables by their number, those for AC from 16 on. */
function readTables(bytes: Uint8Array, from: number, end: number, tables: Map<number, HuffmanTable>): void {
  for (let at = from; at < end; ) {
    const counts = bytes.subarray(at + 1, at + 17);
    const all = counts.reduce((sum, count) => sum + count, 0);
    if (at + 17 + all > end) throw new Error('a table of it ends too soon');
    tables.set(bytes[at], huffmanTable(counts, bytes.subarray(at + 17, at + 17 + all)));
    at += 17 + all;
  }
}

function readFrame(bytes: Uint8Array, at: number) {
  const [heightPx, widthPx] = [two(bytes, at + 1), two(bytes, at + 3)];
  const components = Array.from({ length: bytes[at + 5] }, (_, i): Component => {
    const [id, sampling] = [bytes[at + 6 + i * 3], bytes[at + 7 + i * 3]];
    return { id, across: sampling >> 4, down: sampling & 15, dc: 0, ac: 0 };
  });
  if (widthPx === 0 || heightPx === 0 || components.some(({ across, down }) => across === 0 || down === 0))
    throw new Error('its size is none');
  return { widthPx, heightPx, components };
}

/** Reads every block of the one scan, and what ends it (ITU-T T.81 §F.2.1). */
function readBlocks(
  bytes: Uint8Array,
  from: number,
  widthPx: number,
  heightPx: number,
  components: readonly Component[],
  tables: ReadonlyMap<number, HuffmanTable>,
  restartEvery: number,
): void {
  const one = components.length === 1;
  const across = one ? 1 : Math.max(...components.map((component) => component.across));
  const down = one ? 1 : Math.max(...components.map((component) => component.down));
  const units = Math.ceil(widthPx / 8 / across) * Math.ceil(heightPx / 8 / down);
  const blocks = components.flatMap((component) => {
    const [dc, ac] = [tables.get(component.dc), tables.get(component.ac)];
    if (!dc || !ac) throw new Error('a table of it is missing');
    return Array.from({ length: one ? 1 : component.across * component.down }, () => ({ dc, ac }));
  });
  let start = from;
  for (let done = 0; done < units; ) {
    const end = nextMarker(bytes, start);
    const bits = new CodedBits(bytes, start, end);
    const until = restartEvery > 0 ? Math.min(units, done + restartEvery) : units;
    for (; done < until; done++) for (const { dc, ac } of blocks) passBlock(bits, dc, ac);
    if (!bits.isDone()) throw new Error('it has more coded data than it needs');
    const marker = bytes[end + 1];
    if (done < units ? marker < 0xd0 || marker > 0xd7 : marker !== 0xd9) throw new Error('it ends too soon');
    start = end + 2;
  }
}

/** Where the next marker is: a byte of ones that no stuffed 0 follows. */
function nextMarker(bytes: Uint8Array, from: number): number {
  for (let at = bytes.indexOf(0xff, from); at >= 0; at = bytes.indexOf(0xff, at + 2))
    if (bytes[at + 1] !== 0) return at;
  throw new Error('it ends too soon');
}

/** One block of 64 coefficients: how large the first is, then runs of zeros and how large what follows them is. */
function passBlock(bits: CodedBits, dc: HuffmanTable, ac: HuffmanTable): void {
  bits.skip(bits.symbol(dc));
  for (let k = 1; k < 64; ) {
    const symbol = bits.symbol(ac);
    const size = symbol & 15;
    if (size === 0) {
      if (symbol !== 0xf0) return;
      k += 16;
      continue;
    }
    k += (symbol >> 4) + 1;
    if (k > 64) throw new Error('its coded data are damaged');
    bits.skip(size);
  }
}
