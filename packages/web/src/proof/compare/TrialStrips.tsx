import { PLACES } from './panes';
import { SettingStrip } from './SettingStrip';
import type { Compared } from './use-comparison';

/** Under each pane that tries settings, what they are; nothing while none does. */
export function TrialStrips({ comparison }: { comparison: Compared }) {
  const { panes } = comparison;
  if (!panes.some((pane) => pane.settings)) return null;
  return (
    <div className="flex flex-none">
      {panes.map((pane, i) =>
        pane.settings ? (
          <div key={PLACES[i]} className="min-w-0 flex-1 border-line border-r last:border-r-0">
            <SettingStrip
              output={comparison.outputOf(pane)}
              settings={pane.settings}
              onChange={(settings) => comparison.change(i, settings)}
              onUse={() => comparison.use(pane)}
              onClose={() => comparison.drop(i)}
            />
          </div>
        ) : (
          <div
            key={PLACES[i]}
            className="flex h-11 min-w-0 flex-1 items-center border-line border-t border-r bg-paper px-3 text-ink-3"
          >
            {i === 0 ? 'as the output has it' : ''}
          </div>
        ),
      )}
    </div>
  );
}
