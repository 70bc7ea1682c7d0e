import { type ComposedPage, type FileJob, type OutputSettings, refuse, type Seen, type StoredBlob } from '@tolvik/core';

/** One file to be made: a stand-alone SVG and what to turn it into. Sizes in px of the file. */
export type RenderJob = {
  svg: string;
  settings: OutputSettings;
  widthPx: number;
  heightPx: number;
  /** Written into PNG and JPEG. */
  dpi: number;
  /** The colour behind the artwork, in hexadecimal; null when there is none. JPEG must have one without alpha. */
  ground: string | null;
  /** The settings of the file that a PNG is a picture of: it shows what that file does. */
  standsFor?: OutputSettings;
  /** PDF only: a page for each in place of `svg`. */
  pages?: readonly ComposedPage[];
  /** The pictures that stand in the SVG by their names (`blob:` and hash). */
  pictures?: readonly StoredBlob[];
};

/** What a composed file is to a renderer: with the pictures it shows. Throws a `Refusal` when one of them is not here. */
export function renderJob(
  { key: _, pictures, ...job }: FileJob,
  find: (hash: string) => StoredBlob | undefined,
): RenderJob {
  return {
    ...job,
    pictures: pictures.map((hash) => find(hash) ?? refuse('file.picture', 'a picture that it shows is not here')),
  };
}

/** What decoding the finished bytes found. */
export type Measured = {
  widthPx: number;
  heightPx: number;
  bytes: number;
  alpha: boolean;
  dpi: number | null;
  /** "palette", "RGBA", "vector" … */
  colourType: string;
  /** PDF only. */
  pages?: number;
  /** Things a PDF could only hold as a picture. */
  flattened?: boolean;
  /** What can be told of it from its ground, and what became of its ink; only where there is anything to say. */
  seen?: Seen;
};

export type Rendered = { bytes: Buffer; measured: Measured };
