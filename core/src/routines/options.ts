/** One thing that can be set on the carpet: its values with their words, the usual one first, and why that one. */
interface Option {
  readonly title: string;
  readonly values: Readonly<Record<string, string>>;
  readonly why: string;
}

/**
 * Where practitioners disagree, or a sitting differs from another, it is set, with the reason on screen. The first value of each is the usual one. What is a
 * number (how long, how many, which wholes) is not here but in `RoutineWish`.
 */
export const OPTIONS = {
  direction: {
    title: 'Frame',
    values: { rows: 'lying', columns: 'upright' },
    why: 'Lying: the same picture every time. Upright once that one is safe.',
  },
  startBox: {
    title: 'Start box',
    values: { shown: 'marked', hidden: 'not marked' },
    why: 'Marked at first, so that every frame is filled from the same box.',
  },
  kinds: {
    title: 'Counters',
    values: { one: 'all alike', fives: 'two kinds, by five' },
    why: 'All alike when measuring; two kinds, told apart by their form, when the five is to be noticed.',
  },
  counters: {
    title: 'Drawn as',
    values: { dots: 'plain dots', things: 'the class’s own things' },
    why: 'Plain dots keep every picture alike. Things are for stories and talk.',
  },
  help: {
    title: 'With',
    values: { symbols: 'symbols only', picture: 'a picture in view', objects: 'objects in hand' },
    why: 'Objects first, then a picture, then symbols. Only symbols prove that a fact is known; the record says which it was.',
  },
  order: {
    title: 'Order',
    values: { mixed: 'mixed', rising: 'rising' },
    why: 'Mixed when measuring: in order, one answer gives the next away. Rising when teaching.',
  },
  gap: {
    title: 'Gap',
    values: { last: 'last part missing', anywhere: 'anywhere' },
    why: 'Anywhere, and with the total on either side, once addition is safe.',
  },
  away: {
    title: 'Taken away by',
    values: { crossed: 'crossing off', moved: 'moving out', row: 'a whole row of five' },
    why: 'Crossed off means gone; moved out is a different mark. The whole row when five goes.',
  },
  parts: {
    title: 'Missing',
    values: { turns: 'whole and parts in turn', whole: 'the whole', part: 'a part' },
    why: 'In turn, so that no answer follows from the picture alone. The whole first for beginners.',
  },
  groupsOf: { title: 'Groups of', values: { two: 'two', five: 'five' }, why: 'Twos first: they are seen at a glance.' },
  rule: {
    title: 'Ways counted',
    values: {
      'turned-zero': 'turned pairs apart, with zero',
      turned: 'turned pairs apart, without zero',
      zero: 'turned pairs as one, with zero',
      plain: 'turned pairs as one, without zero',
    },
    why: 'Apart and with zero: it is the set of facts that is judged. All four totals are shown.',
  },
  ways: {
    title: 'Ways found',
    values: { free: 'freely, then checked', order: 'in order', withheld: 'all but one given' },
    why: 'Freely shows what a child has ready; in order shows the pattern; one held back is reasoned out.',
  },
  three: {
    title: 'Three parts',
    values: { ten: 'find the ten', left: 'left to right' },
    why: 'Two that make ten are found first; left to right when no two do.',
  },
  past: {
    title: 'Past ten',
    values: { two: 'two frames', one: 'one frame, the rest outside' },
    why: 'Two frames first: the move and the gap are both in view.',
  },
} as const satisfies Record<string, Option>;

export type OptionName = keyof typeof OPTIONS;
export type Options = { readonly [O in OptionName]: keyof (typeof OPTIONS)[O]['values'] };
export const OPTION_NAMES = Object.keys(OPTIONS) as OptionName[];

/** The values of an option, the usual one first. */
export const valuesOf = <O extends OptionName>(name: O): Options[O][] =>
  Object.keys(OPTIONS[name].values) as Options[O][];

export const USUAL_OPTIONS = Object.fromEntries(
  OPTION_NAMES.map((name) => [name, valuesOf(name)[0]]),
) as unknown as Options;
