import { Button } from '../../ui/controls';

/** One header that goes with every request; `key` tells it from others while both change. */
export type Header = { key: number; name: string; value: string };

/** Headers that were given a name, as they are sent. */
export const headersOf = (headers: readonly Header[]): Record<string, string> =>
  Object.fromEntries(headers.filter(({ name }) => name.trim() !== '').map(({ name, value }) => [name.trim(), value]));

/** Headers that go with every request to an intake, such as a key. What they say is never shown again. */
export function HeadersFields({
  headers,
  onChange,
}: {
  headers: readonly Header[];
  onChange(headers: readonly Header[]): void;
}) {
  const set = (key: number, fields: Partial<Header>) =>
    onChange(headers.map((each) => (each.key === key ? { ...each, ...fields } : each)));
  return (
    <>
      <span className="text-ink-2">Headers</span>
      <div className="flex flex-col gap-1.5">
        {headers.map(({ key, name, value }) => (
          <div key={key} className="flex gap-1.5">
            <input
              className="field w-40 font-mono text-[11.5px]"
              aria-label="Name of the header"
              placeholder="Authorization"
              maxLength={100}
              value={name}
              onChange={(event) => set(key, { name: event.target.value })}
            />
            <input
              type="password"
              autoComplete="off"
              className="field min-w-0 flex-1 font-mono text-[11.5px]"
              aria-label="What it says"
              maxLength={4000}
              value={value}
              onChange={(event) => set(key, { value: event.target.value })}
            />
            <Button
              small
              aria-label={`Take ${name || 'this header'} out`}
              onClick={() => onChange(headers.filter((each) => each.key !== key))}
            >
              ×
            </Button>
          </div>
        ))}
        <Button
          small
          className="self-start"
          onClick={() => onChange([...headers, { key: (headers.at(-1)?.key ?? 0) + 1, name: '', value: '' }])}
        >
          Add a header
        </Button>
      </div>
    </>
  );
}
