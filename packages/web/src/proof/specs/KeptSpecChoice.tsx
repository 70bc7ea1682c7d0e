import { type KeptSpec, useKeptSpecs } from '../../outputs/kept-specs';

import { SpecChoice } from './SpecChoice';

/** A spec kept for all projects; one of them new projects begin with. */
export function KeptSpecChoice({ spec, onAdd }: { spec: KeptSpec; onAdd(): void }) {
  const { drop, begin } = useKeptSpecs();
  const { id, name, body, isFirst } = spec;
  return (
    <li className="relative">
      <SpecChoice
        look="border-spruce border-solid bg-white hover:border-ink"
        title={name}
        outputs={body.outputs.length}
        about={`Kept here for all projects. ${body.spec.about}`}
        onClick={onAdd}
      />
      <span className="absolute top-1.5 right-1.5 flex items-center gap-2">
        <button
          type="button"
          aria-pressed={isFirst}
          className={`rounded-sm px-1 text-note hover:text-ink ${isFirst ? 'font-semibold text-spruce' : 'text-ink-3'}`}
          onClick={() => begin(spec, !isFirst)}
        >
          {isFirst ? 'new projects begin with it' : 'Begin new projects with it'}
        </button>
        <button
          type="button"
          aria-label={`Stop keeping ${name}`}
          className="rounded-sm px-1 text-ink-3 hover:text-bad"
          onClick={() => drop(id)}
        >
          ×
        </button>
      </span>
    </li>
  );
}
