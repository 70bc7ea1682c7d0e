/**
 * Whether a pattern fits a whole path: `*` is anything but `/`, `**` anything, `?` one letter but `/`. Takes as long as
 * both are long, however the stars lie.
 */
export function fits(pattern: string, path: string): boolean {
  // For every place of the path whether the pattern so far reaches it.
  let reached = new Uint8Array(path.length + 1);
  reached[0] = 1;
  for (let i = 0; i < pattern.length; i++) {
    const next = new Uint8Array(path.length + 1);
    if (pattern[i] === '*') {
      const across = pattern[i + 1] === '*';
      if (across) i++;
      for (let at = 0, open = 0; at <= path.length; at++) {
        open = reached[at] || (open && (across || path[at - 1] !== '/')) ? 1 : 0;
        next[at] = open;
      }
    } else
      for (let at = 0; at < path.length; at++)
        if (reached[at] && (pattern[i] === '?' ? path[at] !== '/' : pattern[i] === path[at])) next[at + 1] = 1;
    reached = next;
  }
  return reached[path.length] === 1;
}
