/**
 * The same function, with what it gave for the last few texts kept: what is asked by several, one after the other, is
 * made once. What it gives is not to be changed.
 */
export function lately<T>(make: (text: string) => T, most = 12): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    const before = known.get(text);
    if (before !== undefined) return before;
    const made = make(text);
    if (known.size >= most) known.clear();
    known.set(text, made);
    return made;
  };
}
