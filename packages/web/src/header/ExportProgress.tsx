import { request } from '../api/client';
import type { Progress } from '../project/session/session';
import { useNotice } from '../ui/notices';

/** A running export: how many, which, and the way to stop it. */
export function ExportProgress({ progress }: { progress: Progress }) {
  const tell = useNotice();
  const done = progress.made + progress.failed;
  return (
    <div className="flex items-center gap-2" title={progress.path}>
      <div className="w-[104px]">
        <div className="text-note">
          {done} of {progress.total} files
        </div>
        <div
          role="progressbar"
          aria-label="Export"
          aria-valuenow={done}
          aria-valuemax={progress.total}
          className="mt-0.5 h-1.5 border border-spruce bg-white"
        >
          <div className="h-full bg-spruce" style={{ width: `${(100 * done) / Math.max(1, progress.total)}%` }} />
        </div>
      </div>
      <button
        type="button"
        className="rounded-sm px-1.5 font-semibold text-bad hover:bg-bad-pale"
        onClick={() =>
          void request(`/deliveries/${progress.id}/stop`, { method: 'POST' }).catch((error: Error) =>
            tell(error.message, { bad: true }),
          )
        }
      >
        Stop
      </button>
    </div>
  );
}
