import type { ReactNode } from 'react';
import { count } from '../../ui/words';

export function SpecChoice({
  look,
  title,
  outputs,
  about,
  onClick,
}: {
  look: string;
  title: ReactNode;
  outputs?: number;
  about: string;
  onClick(): void;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`flex h-full w-full flex-col items-start border px-3 py-2 text-left ${look}`}
    >
      <span className="font-semibold">
        {title}
        {outputs !== undefined && <span className="font-normal text-ink-3"> {count(outputs, 'output')}</span>}
      </span>
      <span className="text-ink-2 text-note">{about}</span>
    </button>
  );
}
