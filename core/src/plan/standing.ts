import type { Reading, ReadingWord } from '../reading/reading';

/**
 * How a fact stands with a child, in the words of the record, the nearest to knowing first. Defined once, from the reading and from nothing else, and used by Today, the week, Child, Class and
 * prints (docs/judging.md).
 */
export const STANDINGS = [
  'known',
  'nearly known',
  'worked out',
  'counted',
  'not yet',
  'not settled',
  'not asked',
] as const;
export type Standing = (typeof STANDINGS)[number];

/** @param reading of the fact; null = there is none */
export function standingOf(reading: Pick<Reading, 'reading' | 'lean' | 'responses'> | null | undefined): Standing {
  if (!reading || reading.responses === 0) return 'not asked';
  switch (reading.reading) {
    case 'knows':
      return 'known';
    case 'works out':
      return 'worked out';
    case 'counts':
      return 'counted';
    case 'not yet':
      return 'not yet';
    case 'in between':
      return reading.lean > 0 ? 'nearly known' : 'not settled';
    case 'too few answers':
      return 'not settled';
  }
}

/** Whether a word rests on more than one answer, on more than one day: only then is it told to parents or the next teacher. */
export const isFirm = ({ responses, days }: Pick<Reading, 'responses' | 'days'>): boolean =>
  responses >= 2 && days >= 2;

/** Of two, the one nearer to knowing. */
export const nearer = (a: Standing, b: Standing): Standing => (STANDINGS.indexOf(b) < STANDINGS.indexOf(a) ? b : a);

const NEEDLES: Readonly<Record<Standing, ReadingWord>> = {
  known: 'knows',
  'nearly known': 'in between',
  'worked out': 'works out',
  counted: 'counts',
  'not yet': 'not yet',
  'not settled': 'too few answers',
  'not asked': 'too few answers',
};
/** The reading whose needle is drawn for a standing. */
export const needleOf = (standing: Standing): ReadingWord => NEEDLES[standing];
