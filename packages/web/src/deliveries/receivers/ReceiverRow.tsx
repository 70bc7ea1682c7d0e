import { Tick } from '../../ui/Tick';
import { TONES } from './receivers';

/** A receiver in the list: on or off, its name, where it is, how it stands. */
export function ReceiverRow({
  name,
  place,
  mono,
  on,
  follows,
  switchLabel = `${name} takes every export${follows ? ' and what edits change' : ''}`,
  standing: { words, tone },
  onSwitch,
  onOpen,
}: {
  name: string;
  place: string;
  mono?: boolean;
  on: boolean;
  follows?: boolean;
  /** What being on means. */
  switchLabel?: string;
  standing: { words: string; tone: keyof typeof TONES };
  onSwitch(on: boolean): void;
  onOpen(): void;
}) {
  return (
    <li className="flex items-start gap-2.5 px-3.5 py-2 hover:bg-rail">
      <Tick checked={on} onChange={onSwitch} label={switchLabel} className="mt-0.5" />
      <button
        type="button"
        onClick={onOpen}
        className="min-w-0 flex-1 text-left leading-[1.35] focus-visible:-outline-offset-2"
      >
        <strong className={`block truncate font-semibold ${on ? '' : 'text-ink-3'}`}>{name}</strong>
        <span className={`block truncate text-ink-3 ${mono ? 'font-mono text-[10.5px]' : 'text-note'}`} title={place}>
          {place}
        </span>
        <span className={`block text-note ${TONES[tone]}`}>
          {follows && on && <span className="text-ink-3">follows the project: </span>}
          {words}
        </span>
      </button>
    </li>
  );
}
