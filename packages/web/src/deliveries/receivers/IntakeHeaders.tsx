import { useState } from 'react';
import { Button } from '../../ui/controls';
import { type Header, HeadersFields, headersOf } from './HeadersFields';

/** Which headers an intake gets, by their names alone, and others in their place. */
export function IntakeHeaders({
  names,
  onChange,
}: {
  names: readonly string[];
  onChange(headers: Record<string, string>): void;
}) {
  const [draft, setDraft] = useState<readonly Header[] | null>(null);
  return (
    <section aria-label="Headers" className="mt-4 border-line border-t pt-3">
      {draft ? (
        <div className="grid grid-cols-[92px_1fr] items-start gap-x-2 gap-y-2">
          <HeadersFields headers={draft} onChange={setDraft} />
          <span />
          <div className="flex gap-2">
            <Button
              small
              kind="go"
              onClick={() => {
                onChange(headersOf(draft));
                setDraft(null);
              }}
            >
              {Object.keys(headersOf(draft)).length === 0 ? 'Send no headers' : 'Send these'}
            </Button>
            <Button small onClick={() => setDraft(null)}>
              Keep what there is
            </Button>
          </div>
        </div>
      ) : (
        <p className="flex items-center gap-2">
          <span className="text-ink-2">
            {names.length === 0
              ? 'It gets no headers of yours.'
              : `It gets ${names.join(', ')}; what they say is kept secret.`}
          </span>
          <Button small onClick={() => setDraft([{ key: 1, name: names[0] ?? '', value: '' }])}>
            {names.length === 0 ? 'Headers…' : 'Other headers…'}
          </Button>
        </p>
      )}
    </section>
  );
}
