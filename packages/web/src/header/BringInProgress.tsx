import { useBringingIn } from '../project/bring-in/bring-in';

/** Files being brought in: how many of how many, and the way to stop it. */
export function BringInProgress() {
  const progress = useBringingIn((state) => state.progress);
  if (!progress) return null;
  const { done, of, stop } = progress;
  return (
    <div className="flex items-center gap-2">
      <div className="w-[104px]">
        <div className="whitespace-nowrap text-note">{of === 0 ? 'Sending…' : `${done} of ${of} read`}</div>
        <div
          role="progressbar"
          aria-label="Bringing in"
          aria-valuenow={done}
          aria-valuemax={of || 1}
          className="mt-0.5 h-1.5 border border-spruce bg-white"
        >
          <div className="h-full bg-spruce" style={{ width: `${(100 * done) / Math.max(1, of)}%` }} />
        </div>
      </div>
      <button type="button" className="rounded-sm px-1.5 font-semibold text-bad hover:bg-bad-pale" onClick={stop}>
        Stop
      </button>
    </div>
  );
}
