import { isRouteErrorResponse, Link, useRouteError } from 'react-router';

/** For addresses that lead nowhere and for pages that broke. */
export function Lost() {
  const error = useRouteError();
  const words =
    !error || (isRouteErrorResponse(error) && error.status === 404)
      ? 'There is nothing at this address.'
      : error instanceof Error
        ? error.message
        : 'This page broke.';
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
