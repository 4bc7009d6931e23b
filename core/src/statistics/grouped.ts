/** By key, in the order in which the keys come. */
export function grouped<T, K>(all: readonly T[], keyOf: (one: T) => K): Map<K, T[]> {
  const found = new Map<K, T[]>();
  for (const one of all) {
    const key = keyOf(one);
    const own = found.get(key);
    if (own) own.push(one);
    else found.set(key, [one]);
  }
  return found;
}
