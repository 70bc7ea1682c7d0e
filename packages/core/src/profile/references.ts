/** References as records and composed files hold them: `url(#id)` within a value, or `#id` as the whole of an `href`. */
const REFERENCES = /url\(#([^)]+)\)/g;
type Attributes = Readonly<Record<string, string>>;

/** The first id that a value such as `url(#a)` refers to. */
export const referred = (value: string | undefined): string | undefined =>
  value ? /url\(#([^)]+)\)/.exec(value)?.[1] : undefined;

/** A value with its references to others; to none where `of` knows no id. */
export const withReferences = (value: string, of: (id: string) => string | undefined): string =>
  value.includes('url(')
    ? value.replace(REFERENCES, (_, id) => {
        const other = of(id);
        return other ? `url(#${other})` : 'none';
      })
    : value;

/** Every id that attributes refer to, with the attribute. */
export function* referencesIn(attrs: Attributes): Generator<[attribute: string, id: string]> {
  for (const name in attrs) {
    const value = attrs[name];
    if (name === 'href' && value.startsWith('#')) yield [name, value.slice(1)];
    else if (value.includes('url(')) for (const [, id] of value.matchAll(REFERENCES)) yield [name, id];
  }
}

/** What a layer draws with: its attributes, and those of the runs of its text. */
type Drawing = { attrs: Attributes; text?: readonly { attrs: Attributes }[] };

/** Every id that a layer refers to, by itself or in a run of its text, with what says it. */
export function* layerReferences({ attrs, text = [] }: Drawing): Generator<[said: string, id: string]> {
  yield* referencesIn(attrs);
  for (const [i, run] of text.entries())
    for (const [name, id] of referencesIn(run.attrs)) yield [`run ${i} ${name}`, id];
}

/** A layer with all its references to others, those of the runs of its text, too. */
export const withLayerReferences = <T extends Drawing>(layer: T, of: (id: string) => string): T => ({
  ...layer,
  attrs: withRenamedReferences(layer.attrs, of),
  ...(layer.text ? { text: layer.text.map((run) => ({ ...run, attrs: withRenamedReferences(run.attrs, of) })) } : {}),
});

/** Attributes with all their references to others. */
export const withRenamedReferences = (attrs: Attributes, of: (id: string) => string): Record<string, string> =>
  Object.fromEntries(
    Object.entries(attrs).map(([name, value]) => [
      name,
      name === 'href' && value.startsWith('#') ? `#${of(value.slice(1))}` : withReferences(value, of),
    ]),
  );
