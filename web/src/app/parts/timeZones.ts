/** Where this browser stands. */
export const ownTimeZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** All time zones that this browser knows by name, and those given, which it may know by an older name. */
export const timeZones = (...also: readonly string[]): string[] =>
  [...new Set([...Intl.supportedValuesOf('timeZone'), ...also])].sort();
