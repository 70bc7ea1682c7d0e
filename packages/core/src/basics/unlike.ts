/** A name that none of the taken ones is, case aside: "leaf", "leaf 2", "leaf 3" …. */
export function unlike(name: string, taken: Iterable<string>): string {
  const known = new Set([...taken].map((each) => each.toLowerCase()));
  let free = name;
  for (let n = 2; known.has(free.toLowerCase()); n++) free = `${name} ${n}`;
  return free;
}
