/**
 * Where practitioners disagree, or a session differs from another, it is set: the values of each option, the usual one first. What is a number (how long, how
 * many, which wholes) is not here but in `RoutineWish`. What they are called, and why the usual one is usual, is in the catalogue of words.
 */
export const OPTIONS = {
  direction: ['rows', 'columns'],
  startBox: ['shown', 'hidden'],
  kinds: ['one', 'fives'],
  counters: ['dots', 'things'],
  help: ['symbols', 'picture', 'objects'],
  order: ['mixed', 'rising'],
  gap: ['last', 'anywhere'],
  away: ['crossed', 'moved', 'row'],
  parts: ['turns', 'whole', 'part'],
  groupsOf: ['two', 'five'],
  rule: ['turned-zero', 'turned', 'zero', 'plain'],
  ways: ['free', 'order', 'withheld'],
  slots: ['hidden', 'shown'],
  three: ['ten', 'left'],
  past: ['two', 'one'],
} as const;

export type OptionName = keyof typeof OPTIONS;
export type Options = { readonly [O in OptionName]: (typeof OPTIONS)[O][number] };
export const OPTION_NAMES = Object.keys(OPTIONS) as OptionName[];

/** The values of an option, the usual one first. */
export const valuesOf = <O extends OptionName>(name: O): readonly Options[O][] =>
  OPTIONS[name] as unknown as readonly Options[O][];

export const USUAL_OPTIONS = Object.fromEntries(
  OPTION_NAMES.map((name) => [name, OPTIONS[name][0]]),
) as unknown as Options;
