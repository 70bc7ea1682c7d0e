import { type ActSettings, acts, type Edition, type Layer } from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';
import { DifferenceList } from '../editions/EditionDifferences';

/** Tint and opacity of the selected layers in one edition alone, and what else it holds of one. What one shows is the first layer's. */
export function EditionFields({ layers, edition }: { layers: readonly Layer[]; edition: Edition }) {
  const session = useSession();
  const held = edition.overrides[layers[0].id];
  const set = (said: ActSettings<typeof acts.setDifference>) =>
    act(
      session,
      acts.setDifference,
      said,
      layers.map(({ id }) => id),
    );
  return (
    <section className="border-line border-b px-3.5 py-2.5">
      <div className="border border-ochre bg-ochre-pale px-2 pt-1 pb-2 text-ochre">
        <h3 className="truncate font-semibold text-[12px]" title={`Only in ${edition.name}`}>
          Only in {edition.name}
        </h3>
        <div className="mt-1 flex items-center gap-2">
          <span className="shrink-0">Tint</span>
          <ColourField
            label={`Tint in ${edition.name}`}
            value={held?.tint}
            inherited="as the base"
            onChange={(tint) => set({ tint: tint === 'none' ? null : tint })}
          />
          <NumberField
            label={`opacity in ${edition.name}, in percent of the base's`}
            showLabel="%"
            value={Math.round((held?.opacity ?? 1) * 100)}
            min={0}
            max={100}
            onChange={(percent) => set({ opacity: percent / 100 })}
            className="w-[70px] shrink-0 [&>span]:text-ochre"
          />
        </div>
        {layers.length === 1 && held && (
          <div className="mt-2 text-ink">
            <DifferenceList edition={edition} ofLayer={layers[0].id} />
          </div>
        )}
      </div>
    </section>
  );
}
