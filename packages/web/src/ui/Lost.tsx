import { Link } from 'react-router';

/** For addresses that lead nowhere. */
export const Lost = () => <Elsewhere words="There is nothing at this address." />;

/** For pages that broke. */
export const Broken = ({ error }: { error: unknown }) => (
  <Elsewhere words={error instanceof Error ? error.message : 'This page broke.'} />
);

function Elsewhere({ words }: { words: string }) {
  return (
    <main className="flex h-full flex-col items-center justify-center gap-3">
      <h1 className="font-bold text-[17px]">{words}</h1>
      <p className="text-ink-2">What you made is saved.</p>
      <Link to="/" className="font-semibold text-spruce underline">
        Go to the shelf
      </Link>
    </main>
  );
}
