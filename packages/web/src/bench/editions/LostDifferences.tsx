import { acts, type Edition, layersWithin, layerTitle, lostDifferences } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { PickOne } from '../../ui/PickOne';
import { act } from '../act';

/** Differences for layers that went when the artwork was replaced: each is attached to another layer, in all editions at once. */
export function LostDifferences({ edition }: { edition: Edition }) {
  const session = useSession();
  const { doc } = session;
  const lost = lostDifferences(edition);
  const base = doc.find('artboard', edition.artboardId);
  if (lost.length === 0 || !base) return null;
  const layers = layersWithin(doc, base);
  return (
    <ul className="mb-2 flex flex-col gap-1.5 border-bad border-l-2 pl-2">
      {lost.map(({ layerId, was }) => (
        <li key={layerId}>
          <label className="block">
            <span className="text-bad">{was} is gone.</span> Its difference goes to
            <PickOne
              className="mt-0.5 w-full"
              label={`Layer in place of ${was}`}
              value=""
              empty={{ value: '', title: 'choose a layer…' }}
              options={layers.map((layer) => ({ value: layer.id, title: layerTitle(layer) }))}
              onChange={(to) => to && act(session, acts.attachDifferences, { from: layerId, to })}
            />
          </label>
        </li>
      ))}
    </ul>
  );
}
