/** No presentation attributes, so renderers heed them only in `style` (Compositing and Blending 1 §3). */
export const ONLY_IN_STYLE: ReadonlySet<string> = new Set(['mix-blend-mode', 'isolation']);

/** How a layer blends, as a `style` attribute says it; '' when it says nothing. */
export const blendStyle = (attrs: Readonly<Record<string, string>>): string =>
  [...ONLY_IN_STYLE]
    .filter((name) => name in attrs)
    .map((name) => `${name}:${attrs[name]}`)
    .join(';');
