import { Sheet } from '../ui/Sheet';
import { showCommands } from './commands';
import { GLOSSARY } from './glossary';

/** The words that the app uses, with what they mean. */
export function Glossary() {
  return (
    <Sheet open wide forReading onClose={() => showCommands(null)} title="Words" about="What each word means here.">
      <dl className="columns-2 gap-8">
        {GLOSSARY.map(([word, meaning]) => (
          <div key={word} className="mb-2 break-inside-avoid">
            <dt className="font-semibold">{word}</dt>
            <dd className="text-ink-2">{meaning}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
