import { type SettingsOf, shapesOf } from '@tolvik/core';
import { NumberField } from '../../ui/NumberField';
import { Row } from './Row';

type Settings = SettingsOf<'svg' | 'pdf' | 'eps'>;

const TITLES: Record<Settings['shapes'], string> = {
  drawn: 'As they are drawn',
  outlined: 'Strokes as outlines',
  united: 'United by colour',
};

/** What becomes of shapes in a file of vectors, and what is too thin to be cut. */
export function ShapesFields<S extends Settings>({ settings, onChange }: { settings: S; onChange(settings: S): void }) {
  const { shapes, leastMm } = shapesOf(settings) as Pick<Settings, 'shapes' | 'leastMm'>;
  return (
    <>
      <Row title="Shapes">
        <select
          className="field w-full"
          aria-label="Shapes"
          value={shapes}
          onChange={(event) => onChange({ ...settings, shapes: event.target.value as Settings['shapes'] })}
        >
          {Object.entries(TITLES).map(([value, title]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </select>
      </Row>
      {shapes === 'united' && (
        <Row title="Thin below">
          <NumberField
            label="Parts and gaps thinner than so many mm are told"
            showLabel=""
            value={leastMm}
            min={0.05}
            max={20}
            onChange={(leastMm) => onChange({ ...settings, leastMm })}
            className="w-[58px]"
          />
          <span className="text-ink-2">mm</span>
        </Row>
      )}
    </>
  );
}
