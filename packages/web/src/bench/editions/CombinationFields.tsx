import { combinationCount, type EditionDraft, MAX_EDITIONS, type Choice as Turns } from '@tolvik/core';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { EditionRows } from './EditionRows';

/** Which groups take turns, how their combinations are called, and all of these. */
export function CombinationFields({
  choices,
  picked,
  onPicked,
  naming,
  onNaming,
  drafts,
}: {
  choices: readonly Turns[];
  picked: ReadonlySet<string>;
  onPicked(picked: ReadonlySet<string>): void;
  naming: string;
  onNaming(naming: string): void;
  drafts: readonly EditionDraft[];
}) {
  const chosen = choices.filter(({ group }) => picked.has(group.id));
  const total = combinationCount(chosen);
  return (
    <div className="mt-3 grid grid-cols-2 gap-5">
      <div>
        <label className="mb-3 block">
          <span className="heading mb-1 block">Names</span>
          <input
            className="field w-full font-mono text-[11.5px]"
            value={naming}
            maxLength={300}
            onChange={(event) => onNaming(event.target.value)}
          />
          <span className="mt-1 block text-ink-2 text-note">
            A group’s name in braces stands for its layer; {'{base}'} and {'{n}'} are the artboard and a count.
          </span>
        </label>
        <h3 className="heading mb-1.5">One layer of each group shows</h3>
        {choices.length === 0 && (
          <p className="text-ink-2">No group on this artboard holds layers that could take turns.</p>
        )}
        {choices.map(({ group, options }) => (
          <label key={group.id} className="flex items-start gap-2 py-1">
            <Tick
              checked={picked.has(group.id)}
              onChange={(on) => onPicked(toggled(picked, group.id, on))}
              label={`Combine ${group.name || 'group'}`}
              className="mt-0.5"
            />
            <span className="min-w-0">
              <strong className="font-semibold">{group.name || 'group'}</strong>{' '}
              <span className="font-mono text-[11px] text-ink-3">× {options.length}</span>
              <span className="block truncate text-ink-2 text-note">
                {options.map((option) => option.name || option.tag).join(', ')}
              </span>
            </span>
          </label>
        ))}
        {total > MAX_EDITIONS && (
          <p role="alert" className="mt-2 text-bad">
            {total.toLocaleString('en')} are more than the {MAX_EDITIONS.toLocaleString('en')} editions one artboard may
            have. Leave a group out.
          </p>
        )}
      </div>
      <div className="min-w-0">
        <h3 className="heading mb-1">
          {chosen.map(({ options }) => options.length).join(' × ')}{' '}
          {chosen.length > 0 ? `= ${total.toLocaleString('en')}` : 'No group is chosen'}
        </h3>
        <EditionRows rows={drafts} />
      </div>
    </div>
  );
}
