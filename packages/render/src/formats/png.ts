import type { SettingsOf } from '@tolvik/core';
import type { Rendered, RenderJob } from '../job';
import { encodePng } from '../png/encode';
import { measurePng } from '../png/measure';
import { rasterise } from '../rasterise';
import { seenOn } from '../seen';

export function renderPng({ svg, widthPx, heightPx, dpi, ground }: RenderJob, { effort }: SettingsOf<'png'>): Rendered {
  const { data } = rasterise(svg, widthPx, heightPx);
  // On a ground that hides what is behind it every pixel is as it will be.
  const seen = seenOn(ground, data, widthPx);
  const bytes = encodePng(data, widthPx, heightPx, { dpi, effort, premultiplied: true });
  const facts = measurePng(bytes);
  return {
    bytes,
    measured: {
      widthPx: facts.width,
      heightPx: facts.height,
      bytes: bytes.length,
      alpha: facts.alpha,
      dpi: facts.dpi,
      colourType: facts.colourType,
      seen,
    },
  };
}
