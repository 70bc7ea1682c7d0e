import { INITIAL_PAINT } from '@tolvik/core';

/** Inherited properties (SVG 2 §6.6) as the PDF writer uses them; strings as written. */
export type Style = Readonly<Record<string, string>>;

export const INITIAL: Style = { ...INITIAL_PAINT, 'image-rendering': 'auto', color: '#000' };

/** The style of an element within its parent's. */
export function inherit(parent: Style, attrs: Readonly<Record<string, string>>): Style {
  let own: Record<string, string> | null = null;
  for (const name in attrs) {
    if (!(name in INITIAL)) continue;
    own ??= { ...parent };
    own[name] = attrs[name];
  }
  return own ?? parent;
}

/** A number with or without a percentage, between 0 and 1. */
export function share(text: string | undefined, otherwise = 1): number {
  if (text === undefined) return otherwise;
  const value = Number.parseFloat(text) / (text.trim().endsWith('%') ? 100 : 1);
  return Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : otherwise;
}

export const number = (text: string | undefined, otherwise: number): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
};

/** Blend mode and isolation, which are no presentation attributes and stand in `style` (Compositing and Blending 1 §3). */
export function blending(attrs: Readonly<Record<string, string>>): { mode: string; isolated: boolean } {
  const style = attrs.style ?? '';
  return {
    mode: /mix-blend-mode:\s*([a-z-]+)/.exec(style)?.[1] ?? 'normal',
    isolated: /isolation:\s*isolate/.test(style),
  };
}

/** In which order fill and stroke are painted (SVG 2 §13.8). */
export function paintOrder(text: string): ('fill' | 'stroke')[] {
  const all = ['fill', 'stroke'] as const;
  const said = text
    .split(/\s+/)
    .filter((word): word is (typeof all)[number] => (all as readonly string[]).includes(word));
  return [...new Set([...said, ...all])];
}
