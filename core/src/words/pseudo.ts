const ACCENTED: Readonly<Record<string, string>> = Object.fromEntries(
  [...'aceinosuyACEINOSUY'].map((letter, i) => [letter, [...'áçéîñöšûýÁÇÉÎÑÖŠÛÝ'][i]!]),
);

/** A text a third longer and accented, still readable; numbers, signs and links stay. */
export function pseudoText(text: string): string {
  if (!/[A-Za-z]/.test(text)) return text;
  const accented = text
    .split(/(\s+)/)
    .map((word) => (word.includes('/') ? word : [...word].map((letter) => ACCENTED[letter] ?? letter).join('')))
    .join('');
  // A long text may be broken within what makes it longer, as it may between words.
  const longer = '·'.repeat(Math.ceil(text.length / 3)).replace(/.{8}/g, '$&\u200b');
  return `${accented}${longer}`;
}

/** The same catalogue with every text made `pseudoText`: of strings, lists and records, and of what functions answer. */
export function pseudo<T>(part: T): T {
  if (typeof part === 'string') return pseudoText(part) as T;
  if (typeof part === 'function') {
    const say = part as unknown as (...args: readonly unknown[]) => unknown;
    return ((...args: readonly unknown[]) => pseudo(say(...args))) as T;
  }
  if (Array.isArray(part)) return part.map((one: unknown) => pseudo(one)) as T;
  if (part !== null && typeof part === 'object')
    return Object.fromEntries(Object.entries(part).map(([name, one]) => [name, pseudo(one as unknown)])) as T;
  return part;
}
