import { capital } from './numbers';
import { isFirm, type Standing } from '../../plan/standing';
import { toldAs, type Reading, type ReadingWord, type ToldWord } from '../../reading/reading';

/** Readings by their code. */
export const readings: Record<ReadingWord, string> = {
  knows: 'knows',
  'works out': 'works out',
  'in between': 'in between',
  counts: 'counts',
  'not yet': 'not yet',
  'too few answers': 'too few answers',
};

/** Readings as they are told. */
export const told: Record<ToldWord, string> = {
  ...readings,
  'probably known': 'probably known',
  'ask the child': 'ask the child',
};
/** The same of a fact rather than of a child. */
export const ofFact: Record<ToldWord, string> = {
  ...told,
  knows: 'known',
  'works out': 'worked out',
  counts: 'counted',
};
export const factStands = (one: Reading): string => ofFact[toldAs(one)];
/** A reading in words; where time cannot tell, what to do instead of "in between". */
export const reading = (one: Reading): string => told[toldAs(one)];

/** What a child does with a fact, as the first words of its evidence: "Counts 2 + 5.", "Probably known: 6 + 1." */
export function lead(one: Reading | null, fact: string): string {
  if (one === null) return `Not asked yet: ${fact}.`;
  const as = toldAs(one);
  if (as === 'not yet') return `Not right yet: ${fact}.`;
  const said = capital(told[as]);
  return as === 'knows' || as === 'works out' || as === 'counts' ? `${said} ${fact}.` : `${said}: ${fact}.`;
}

/** How a fact stands, said of the fact. */
export const standings: Readonly<Record<Standing, string>> = {
  known: 'known',
  'nearly known': 'nearly known',
  'worked out': 'worked out so far',
  counted: 'still counted',
  'not yet': 'not right yet',
  'not settled': 'not settled yet',
  'not asked': 'not asked yet',
};

/** How sure, in words; a reading that settles nothing says why instead. */
export function sureness(one: Reading): string {
  if (one.responses === 0) return 'not asked yet';
  switch (toldAs(one)) {
    case 'too few answers':
      return 'not sure yet';
    case 'probably known':
    case 'ask the child':
      return 'time cannot tell';
    case 'in between':
      return 'fits neither clearly';
    default:
      if (!isFirm(one)) return one.responses === 1 ? 'one answer so far' : 'on one day so far';
      if (one.certainty >= 0.75) return 'sure';
      if (one.certainty >= 0.45) return 'fairly sure';
      return one.certainty >= 0.2 ? 'probably' : 'not sure';
  }
}
