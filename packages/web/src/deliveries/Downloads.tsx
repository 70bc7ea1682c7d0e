import { useState } from 'react';
import { store } from '../ui/store';
import { Ticked } from '../ui/Tick';

const KEY = 'tolvik zip page';

/** Whether zips come with a page that shows what is in them; remembered by this browser where it remembers. */
function usePage(): [boolean, (on: boolean) => void] {
  const [on, setOn] = useState(() => store()?.getItem(KEY) === '1');
  return [
    on,
    (next) => {
      setOn(next);
      store()?.setItem(KEY, next ? '1' : '0');
    },
  ];
}

/** The files of a delivery as a zip: all of them, or those that differ; with a page for people if wished. */
export function Downloads({
  id,
  differ,
  made,
}: {
  id: string;
  /** How many differ, where that is not all. */
  differ: number;
  made: number;
}) {
  const [page, setPage] = usePage();
  const query = (more: Record<string, string>) => {
    const said = new URLSearchParams({ ...more, ...(page ? { page: '1' } : {}) }).toString();
    return `/api/deliveries/${id}/archive.zip${said && `?${said}`}`;
  };
  return (
    <div className="flex flex-col items-end gap-1.5">
      <div className="flex gap-3">
        {differ > 0 && (
          <a
            href={query({ only: 'different' })}
            download
            className="inline-flex h-[30px] items-center whitespace-nowrap rounded-md border border-line-strong bg-white px-3 font-semibold text-[12.5px] hover:bg-rail"
          >
            Zip of the {differ} that {differ === 1 ? 'differs' : 'differ'}
          </a>
        )}
        {made > 0 && (
          <a
            href={query({})}
            download
            className="inline-flex h-[30px] items-center whitespace-nowrap rounded-md border border-spruce bg-spruce px-3 font-semibold text-[12.5px] text-white"
          >
            Download .zip
          </a>
        )}
      </div>
      {made > 0 && (
        <Ticked
          checked={page}
          onChange={setPage}
          label="with a page that shows it all"
          className="text-ink-2 text-note"
        />
      )}
    </div>
  );
}
