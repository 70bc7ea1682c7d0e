import type { Matrix } from '@tolvik/core';

/** A reference to an object of the PDF, as pdfkit makes it. */
export type Ref = { end(bytes?: Buffer | string): void };
export type Doc = { ref(data: Record<string, unknown>): Ref };

/** A number as PDF writes it (ISO 32000-1 §7.3.3): no exponent. */
export function num(value: number, decimals = 4): string {
  const factor = 10 ** decimals;
  const rounded = Math.round(value * factor) / factor;
  if (!Number.isFinite(rounded)) return '0';
  const text = String(rounded === 0 ? 0 : rounded);
  return text.includes('e') ? rounded.toFixed(Math.min(20, Math.max(0, decimals))) : text;
}

export const nums = (values: readonly number[], decimals = 4): string =>
  values.map((value) => num(value, decimals)).join(' ');

/** A matrix keeps what a small scale would lose. */
export const matrixText = (m: Matrix): string => nums(m, 10);

/** A matrix or coordinates for a dictionary with all their digits: the library rounds numbers to 6 decimals. */
export class Exact {
  private readonly text: string;
  constructor(values: readonly number[]) {
    this.text = `[${nums(values, 10)}]`;
  }
  get [Symbol.toStringTag](): string {
    return 'Exact';
  }
  toString(): string {
    return this.text;
  }
}

/** A content stream (ISO 32000-1 §7.8.2) under way: operators, and the resources they name. */
export class Content {
  private text = '';
  private readonly resources: Record<string, Record<string, Ref>> = {};
  private readonly names = new Map<unknown, string>();

  op(text: string): void {
    this.text += `${text}\n`;
  }

  /** The name under which this stream knows an object of a kind (`XObject`, `Pattern`, `ExtGState`, `Shading`). */
  name(kind: string, ref: Ref): string {
    const known = this.names.get(ref);
    if (known) return known;
    const name = `${kind[0]}${this.names.size}`;
    this.names.set(ref, name);
    (this.resources[kind] ??= {})[name] = ref;
    return name;
  }

  get isEmpty(): boolean {
    return this.text === '';
  }

  /** What it drew, and the resources that it needs for it. */
  get written(): { text: string; resources: Record<string, Record<string, Ref>> } {
    return { text: this.text, resources: this.resources };
  }

  /** The stream as an object of the PDF, with what its dictionary says beside its resources. */
  toObject(doc: Doc, dictionary: Record<string, unknown>): Ref {
    const ref = doc.ref({ ...dictionary, Resources: this.resources });
    ref.end(Buffer.from(this.text, 'latin1'));
    return ref;
  }
}
