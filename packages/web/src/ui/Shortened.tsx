/** Names up to so many characters need no shortening anywhere. */
const SHORT = 14;
/** The end of a name that always stays: a last word with a few characters before it, as far as there is room. */
const TAIL = 10;

/**
 * A name that is shortened in its middle where there is no room for it, so that names that begin alike can be told
 * apart; whole under the pointer, and for whoever listens.
 */
export function Shortened({
  text,
  className = '',
  title = text,
}: {
  text: string;
  className?: string;
  title?: string;
}) {
  if (text.length <= SHORT)
    return (
      <span className={`block truncate ${className}`} title={title}>
        {text}
      </span>
    );
  return (
    <span className={`flex min-w-0 ${className}`} title={title}>
      <span className="sr-only">{text}</span>
      <span aria-hidden className="truncate whitespace-pre">
        {text.slice(0, -TAIL)}
      </span>
      <span aria-hidden className="shrink-0 whitespace-pre">
        {text.slice(-TAIL)}
      </span>
    </span>
  );
}
