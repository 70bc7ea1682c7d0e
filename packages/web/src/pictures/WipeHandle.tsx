/** The line between two pictures laid over each other. */
export function WipeHandle({
  split,
  width,
  onChange,
}: {
  split: number;
  width: number;
  onChange(split: number): void;
}) {
  const set = (next: number) => onChange(Math.min(1, Math.max(0, next)));
  return (
    <div
      role="slider"
      aria-label="Where the second file begins"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(split * 100)}
      tabIndex={0}
      className="absolute inset-y-0 z-10 w-4 -translate-x-1/2 cursor-ew-resize focus-visible:-outline-offset-2"
      style={{ left: split * width }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
        event.preventDefault();
        event.stopPropagation();
        set(split + (event.key === 'ArrowLeft' ? -0.02 : 0.02));
      }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.buttons === 0) return;
        const box = event.currentTarget.parentElement?.getBoundingClientRect();
        if (box) set((event.clientX - box.left) / box.width);
      }}
    >
      <span className="absolute inset-y-0 left-1/2 w-[2px] -translate-x-1/2 bg-ink" />
      <span className="absolute top-1/2 left-1/2 h-9 w-3 -translate-x-1/2 -translate-y-1/2 border border-ink bg-white" />
    </div>
  );
}
