import { type ReactNode, useId } from 'react';

/** A name and what stands beside it, in a grid of two columns; `children` is given the id for its control. */
export function Field({ title, children }: { title: string; children(id: string): ReactNode }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className="text-ink-2">
        {title}
      </label>
      {children(id)}
    </>
  );
}
