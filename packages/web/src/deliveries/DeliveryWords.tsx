import { useQueryClient } from '@tanstack/react-query';
import type { DeliveryDetail } from '@tolvik/core';
import { useEffect, useRef, useState } from 'react';
import { request } from '../api/client';
import { useNotice } from '../ui/notices';

/** What a delivery is called and what is to be said of it, written where it stands. */
export function DeliveryWords({ delivery }: { delivery: Pick<DeliveryDetail, 'id' | 'projectId' | 'title' | 'note'> }) {
  const { id, projectId, title, note } = delivery;
  const queries = useQueryClient();
  const tell = useNotice();
  const save = async (fields: { title?: string; note?: string }) => {
    try {
      // Words arrive also where the page is left on them.
      await request(`/deliveries/${id}`, { method: 'PATCH', json: fields, keepalive: true });
      await queries.invalidateQueries({ queryKey: ['deliveries', projectId] });
      await queries.invalidateQueries({ queryKey: ['delivery', id] });
    } catch (problem) {
      tell((problem as Error).message, { bad: true });
    }
  };
  return (
    <div className="mt-1.5 flex items-start gap-2">
      <Words
        key={`title ${id}`}
        label="Title"
        most={200}
        value={title}
        onSave={(words) => void save({ title: words })}
      />
      <Words
        key={`note ${id}`}
        label="Note"
        most={5000}
        lines
        value={note}
        onSave={(words) => void save({ note: words })}
      />
    </div>
  );
}

const LOOK =
  'rounded-sm border border-transparent bg-transparent px-1.5 py-0.5 hover:border-line-strong focus:border-line-strong focus:bg-white';

function Words({
  label,
  value,
  most,
  lines,
  onSave,
}: {
  label: string;
  value: string;
  most: number;
  /** Several lines, as many as there are. */
  lines?: boolean;
  onSave(words: string): void;
}) {
  const [draft, setDraft] = useState(value);
  const writing = useRef(false);
  useEffect(() => {
    // What came from elsewhere shows, unless something is being written here.
    if (!writing.current) setDraft(value);
  }, [value]);
  const common = {
    'aria-label': `${label} of the delivery`,
    placeholder: `${label}…`,
    maxLength: most,
    value: draft,
    onChange: (event: { target: { value: string } }) => {
      writing.current = true;
      setDraft(event.target.value);
    },
    onBlur: () => {
      if (writing.current && draft.trim() !== value) onSave(draft.trim());
      writing.current = false;
    },
  };
  return lines ? (
    <textarea
      {...common}
      rows={Math.min(6, Math.max(1, draft.split('\n').length))}
      className={`min-w-0 flex-1 resize-none ${LOOK}`}
    />
  ) : (
    <input
      {...common}
      className={`w-56 font-semibold ${LOOK}`}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}
