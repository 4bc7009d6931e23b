import type { Reading } from '../reading/reading';

/** A reading for tests: of a fact with a word and a probability, and what a test cares about beside them. */
export const someReading = (fact: string, change: Partial<Reading> = {}): Reading => ({
  child: '',
  fact,
  reading: 'too few answers',
  pAutomatic: 0.5,
  lean: 0,
  certainty: 0.5,
  responses: 3,
  days: 2,
  reason: { code: 'in-between' },
  ...change,
});
