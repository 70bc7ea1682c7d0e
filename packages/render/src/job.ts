import type { OutputSettings } from '@tolvik/core';

/** One file to be made: a stand-alone SVG and what to turn it into. Sizes in px of the file. */
export type RenderJob = {
  svg: string;
  settings: OutputSettings;
  widthPx: number;
  heightPx: number;
  /** Written into PNG and JPEG. */
  dpi: number;
  /** Whether the file has a ground that covers everything; JPEG must. */
  opaque: boolean;
  /** PDF only: a page for each in place of `svg`. */
  pages?: readonly { svg: string; widthPx: number; heightPx: number; title: string }[];
};

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
};

export type Rendered = { bytes: Buffer; measured: Measured };
