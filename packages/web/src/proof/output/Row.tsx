import type { ReactNode } from 'react';

/** One setting under its name. */
export const Row = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="grid min-h-[30px] grid-cols-[92px_1fr] items-center gap-2">
    <span className="text-ink-2">{title}</span>
    <span className="flex min-w-0 items-center gap-2">{children}</span>
  </div>
);
