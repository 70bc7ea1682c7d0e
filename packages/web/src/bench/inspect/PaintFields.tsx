import { acts, coloursWithin, inheritedValue, type Layer, plainColour } from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { count } from '../../ui/words';
import { act } from '../act';
import { useBench } from '../bench-state';

const JOINS = ['miter', 'round', 'bevel'] as const;
const CAPS = ['butt', 'round', 'square'] as const;
const JOIN_TITLES = { miter: 'sharp', round: 'round', bevel: 'cut' };
const CAP_TITLES = { butt: 'flat', round: 'round', square: 'square' };

/** Fill, stroke and opacity of the selected layers (SVG 2 §13). What one shows is the first layer's. */
export function PaintFields({ layers, title }: { layers: readonly Layer[]; title: string }) {
  const session = useSession();
  const { set } = useBench();
  const [first] = layers;
  const ids = layers.map(({ id }) => id);
  const paint = (attribute: string, value: string) =>
    act(session, acts.setPaint, { paint: { [attribute]: value } }, ids);
  const value = (name: string) => inheritedValue(session.doc, first, name);
  const stroke = value('stroke');
  const stroked = stroke !== undefined && stroke !== 'none';
  return (
    <section className="border-line border-b px-3.5 py-3">
      <div className="mb-1.5 flex items-center justify-between">
        <h3 className="heading">{title}</h3>
        <Button small kind="bare" className="-mr-2 !font-normal text-ink-2" onClick={() => set({ sheet: 'colours' })}>
          Change everywhere…
        </Button>
      </div>
      {layers.some(({ tag }) => tag === 'g') ? (
        <ColoursInside layers={layers} />
      ) : (
        <div className="flex flex-col gap-1.5">
          <div className="flex items-center gap-2">
            <span className="w-11 shrink-0 text-ink-2">Fill</span>
            <ColourField
              label="Fill"
              value={value('fill') ?? '#000000'}
              fromGroup={!('fill' in first.attrs)}
              onChange={(value) => paint('fill', value)}
            />
          </div>
          <div className="flex items-center gap-2">
            <span className="w-11 shrink-0 text-ink-2">Stroke</span>
            <ColourField
              label="Stroke"
              value={stroke ?? 'none'}
              fromGroup={!('stroke' in first.attrs)}
              onChange={(value) => paint('stroke', value)}
            />
          </div>
        </div>
      )}
      <div className="mt-2 grid grid-cols-2 gap-2">
        <NumberField
          label="stroke width"
          showLabel="width"
          value={Number.parseFloat(value('stroke-width') ?? '1') || 0}
          min={0}
          max={1000}
          step={0.25}
          onChange={(width) => paint('stroke-width', String(width))}
        />
        <NumberField
          label="opacity in percent"
          showLabel="%"
          value={Math.round(first.opacity * 100)}
          min={0}
          max={100}
          onChange={(percent) => act(session, acts.setPaint, { opacity: percent / 100 }, ids)}
        />
      </div>
      {stroked && (
        <div className="mt-2 flex flex-col gap-1.5">
          <div className="flex items-center justify-between">
            <span className="text-ink-2">Joins</span>
            <Choice
              label="Joins of the stroke"
              value={(value('stroke-linejoin') ?? 'miter') as (typeof JOINS)[number]}
              onChange={(join) => paint('stroke-linejoin', join)}
              options={JOINS.map((value) => ({ value, title: JOIN_TITLES[value] }))}
            />
          </div>
          <div className="flex items-center justify-between">
            <span className="text-ink-2">Ends</span>
            <Choice
              label="Ends of the stroke"
              value={(value('stroke-linecap') ?? 'butt') as (typeof CAPS)[number]}
              onChange={(cap) => paint('stroke-linecap', cap)}
              options={CAPS.map((value) => ({ value, title: CAP_TITLES[value] }))}
            />
          </div>
        </div>
      )}
    </section>
  );
}

/** More colours than these are changed in the sheet for all. */
const MOST_COLOURS = 24;

/** The colours in groups, each with how often it is used there; one is made another wherever it is in them. */
function ColoursInside({ layers }: { layers: readonly Layer[] }) {
  const session = useSession();
  const ids = layers.map(({ id }) => id);
  const colours = coloursWithin(session.doc, ids);
  if (colours.length === 0) return <p className="text-ink-3">No plain colours in it.</p>;
  return (
    <ul aria-label="Colours in it" className="flex flex-col gap-1.5">
      {colours.slice(0, MOST_COLOURS).map(({ colour, uses }) => (
        <li key={colour} className="flex items-center gap-2">
          <ColourField
            label={`Colour used ${count(uses, 'time')}`}
            value={colour}
            onlyColours
            onChange={(to) => {
              const opaque = plainColour(to);
              if (opaque) act(session, acts.changeColour, { from: colour, to: opaque, within: 'selection' }, ids);
            }}
          />
          <span className="w-8 shrink-0 text-right text-ink-3 text-note">× {uses}</span>
        </li>
      ))}
    </ul>
  );
}
