/** True when one of the names contains the search text; an empty search matches all. */
export const named = (names: readonly string[], wanted: string): boolean =>
  names.some((name) => name.toLocaleLowerCase().includes(wanted.trim().toLocaleLowerCase()));

/** The filled lines of a text. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((one) => one.trim())
    .filter((one) => one !== '');
