import { NOTHING_ADDED, type Response } from '../record/response';

/** A response for tests: a sum tapped rightly in two seconds at moment 0, and what a test cares about beside that. */
export const someResponse = (change: Partial<Response> = {}): Response => ({
  ...NOTHING_ADDED,
  id: '',
  child: '',
  sitting: '',
  shownAt: 0,
  kind: 'add',
  fact: '3+4',
  answerMode: 'tap',
  exposureMs: null,
  responseMs: 2000,
  given: '7',
  outcome: 'correct',
  ...change,
});
