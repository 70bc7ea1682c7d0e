import { type DragEvent, type ReactNode, useState } from 'react';
import { useBringIn } from './bring-in';

/** Files may be dropped anywhere on an open project: on the left as artboards, on the right as artwork alone. */
export function DropFiles({ children }: { children: ReactNode }) {
  const { bringIn } = useBringIn();
  const [depth, setDepth] = useState(0);
  const [right, setRight] = useState(false);
  const holdsFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  const onRight = (event: DragEvent) => event.clientX > window.innerWidth * 0.66;
  return (
    <div
      className="relative flex h-full flex-col"
      onDragEnter={(event) => holdsFiles(event) && setDepth((n) => n + 1)}
      onDragLeave={(event) => holdsFiles(event) && setDepth((n) => Math.max(0, n - 1))}
      onDragOver={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setRight(onRight(event));
      }}
      onDrop={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setDepth(0);
        void bringIn([...event.dataTransfer.files], onRight(event) ? { as: 'artwork' } : {});
      }}
    >
      {children}
      {depth > 0 && (
        <div className="pointer-events-none absolute inset-0 z-40 flex bg-paper/70">
          <Zone wide on={!right} title="Drop to bring in: each file becomes an artboard of its own size" />
          <Zone on={right} title="Drop here for the artwork alone, with its groups" />
        </div>
      )}
    </div>
  );
}

function Zone({ on, title, wide }: { on: boolean; title: string; wide?: boolean }) {
  return (
    <div
      className={`m-3 flex items-center justify-center border-4 ${wide ? 'flex-[2]' : 'flex-1'} ${on ? 'border-spruce bg-spruce-pale/90' : 'border-line-strong border-dashed'}`}
    >
      <p className={`px-4 py-2 text-center font-semibold text-[15px] ${on ? 'bg-spruce text-white' : 'text-ink-2'}`}>
        {title}
      </p>
    </div>
  );
}
