import { planOf, useSession } from '../project/session/context';
import { renamePiece } from '../project/session/rename';
import { Button } from '../ui/controls';
import { Sheet } from '../ui/Sheet';
import { TextField } from '../ui/TextField';
import { count } from '../ui/words';
import { NameTemplates } from './NameTemplates';
import { PathTree } from './PathTree';

/** How files and folders are called, with the tree that will be written. */
export function NamesSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  const session = useSession();
  const plan = planOf(session);
  const clashes = plan.files.filter((file) => file.clashCount > 0);
  const longest = plan.files.reduce((best, file) => (file.path.length > best.length ? file.path : best), '');
  return (
    <Sheet
      open={open}
      onClose={onClose}
      wide
      title="Names and folders"
      about="What is shown here is what will be on disk."
      footer={<Button onClick={onClose}>Done</Button>}
    >
      <div className="grid grid-cols-[320px_1fr] gap-6">
        <NameTemplates />
        <div className="min-w-0">
          <p className="mb-2 flex items-baseline gap-3">
            <strong className="font-semibold">{count(plan.files.length, 'file')}</strong>
            {clashes.length > 0 ? (
              <span className="text-bad">! {count(clashes.length, 'file')} share a path with another</span>
            ) : (
              <span className="text-ink-2">no two share a path</span>
            )}
          </p>
          {clashes.length > 0 && (
            <ul
              aria-label="Pieces whose names clash"
              className="mb-2 max-h-32 overflow-auto border border-bad bg-bad-pale p-2"
            >
              {[...new Set(clashes.map((file) => file.pieceId))].map((id) => {
                const piece = plan.pieces.find((each) => each.id === id);
                return (
                  piece && (
                    <li key={id} className="flex h-8 items-center gap-2">
                      <span className="w-6 text-right font-mono text-[11.5px]">{piece.number}</span>
                      <TextField
                        label={`Name of piece ${piece.number}`}
                        required
                        value={piece.name}
                        onChange={(name) => renamePiece(session, id, name)}
                        className="flex-1"
                      />
                    </li>
                  )
                );
              })}
            </ul>
          )}
          {plan.files[0] && (
            <p className="truncate text-ink-2 text-note">
              First: <span className="font-mono">{plan.files[0].path}</span>
            </p>
          )}
          {longest && (
            <p className="mb-2 truncate text-ink-2 text-note">
              Longest: <span className="font-mono">{longest}</span>
            </p>
          )}
          {open && <PathTree files={plan.files} />}
        </div>
      </div>
    </Sheet>
  );
}
