import { wordFor, type Judged } from './reading';

describe('words', () => {
  const judged: Judged = {
    pAutomatic: 0.9,
    withoutOwn: () => 0.9,
    shares: [0.9, 0.04, 0.04, 0.02],
    answers: 5,
    days: 3,
    wrong: 0,
    timeTells: true,
    signed: [],
  };
  it.each([
    [{}, 'knows', { code: 'quick-on-days' }],
    [{ timeTells: false }, 'knows', { code: 'probably-known' }],
    [{ timeTells: false, signed: ['retrieve'] }, 'knows', { code: 'quick-on-days' }],
    [{ timeTells: false, signed: ['count'] }, 'knows', { code: 'probably-known' }],
    // At the very limits.
    [{ pAutomatic: 0.8, answers: 3, days: 2 }, 'knows', { code: 'quick-on-days' }],
    [{ days: 1 }, 'too few answers', { code: 'needs-another-day' }],
    [{ answers: 2 }, 'too few answers', { code: 'needs-answers', more: 1 }],
    [{ answers: 1, pAutomatic: 0.1 }, 'too few answers', { code: 'needs-answers', more: 2 }],
    [{ answers: 0, wrong: 0 }, 'too few answers', { code: 'needs-answers', more: 3 }],
    // Where the rest of what the child answers leaves no doubt, one right answer is enough.
    [{ answers: 0, pAutomatic: 0.99 }, 'too few answers', { code: 'needs-answers', more: 3 }],
    [{ answers: 1, days: 1, pAutomatic: 0.95 }, 'knows', { code: 'fits-the-rest' }],
    [{ answers: 1, days: 1, pAutomatic: 0.949 }, 'too few answers', { code: 'needs-answers', more: 2 }],
    // However sure one morning's answers make it, by themselves they do not make it known.
    [
      { answers: 7, days: 1, pAutomatic: 0.99, withoutOwn: () => 0.79 },
      'too few answers',
      { code: 'needs-another-day' },
    ],
    [
      { answers: 1, days: 1, pAutomatic: 0.04, withoutOwn: () => 0.21, shares: [0.1, 0.1, 0.7, 0.1] },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    // And not one that itself speaks against it.
    [
      { answers: 1, days: 1, pAutomatic: 0.96, withoutOwn: () => 0.97 },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [
      { answers: 1, days: 1, pAutomatic: 0.04, withoutOwn: () => 0.03, shares: [0.1, 0.1, 0.7, 0.1] },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [{ answers: 2, pAutomatic: 0.96, timeTells: false }, 'knows', { code: 'fits-the-rest' }],
    [{ answers: 4, days: 1, pAutomatic: 0.96 }, 'knows', { code: 'fits-the-rest' }],
    [{ answers: 2, wrong: 1, pAutomatic: 0.96 }, 'too few answers', { code: 'needs-answers', more: 1 }],
    [
      { answers: 1, days: 1, pAutomatic: 0.05, withoutOwn: () => 0.2, shares: [0.1, 0.1, 0.7, 0.1] },
      'counts',
      { code: 'leads', strategy: 'count' },
    ],
    [
      { answers: 1, days: 1, pAutomatic: 0.051, withoutOwn: () => 0.1, shares: [0.1, 0.1, 0.7, 0.1] },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [
      { answers: 1, days: 1, wrong: 1, pAutomatic: 0.01, withoutOwn: () => 0.1, shares: [0.1, 0.1, 0.7, 0.1] },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [
      { answers: 1, days: 1, pAutomatic: 0.01, withoutOwn: () => 0.1, shares: [0.1, 0.1, 0.1, 0.7] },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [
      { answers: 1, days: 1, pAutomatic: 0.01, withoutOwn: () => 0.1, shares: [0.1, 0.1, 0.7, 0.1], timeTells: false },
      'too few answers',
      { code: 'needs-answers', more: 2 },
    ],
    [{ pAutomatic: 0.79 }, 'in between', { code: 'in-between' }],
    [{ pAutomatic: 0.79, answers: 2 }, 'too few answers', { code: 'needs-answers', more: 1 }],
    [{ pAutomatic: 0.79, days: 1 }, 'too few answers', { code: 'needs-another-day' }],
    [{ pAutomatic: 0.5, timeTells: false }, 'in between', { code: 'probably-known' }],
    [{ pAutomatic: 0.49, timeTells: false }, 'in between', { code: 'ask-the-child' }],
    [
      { pAutomatic: 0.1, shares: [0.1, 0.1, 0.7, 0.1], timeTells: false, signed: ['retrieve'] },
      'in between',
      { code: 'ask-the-child' },
    ],
    // Nothing is counted by its time alone where counting takes no time.
    [{ pAutomatic: 0.1, shares: [0.1, 0.1, 0.7, 0.1], timeTells: false }, 'in between', { code: 'ask-the-child' }],
    [{ pAutomatic: 0.1, shares: [0.1, 0.7, 0.1, 0.1], timeTells: false }, 'in between', { code: 'ask-the-child' }],
    [
      { pAutomatic: 0.1, shares: [0.1, 0.1, 0.7, 0.1], timeTells: false, signed: ['count'] },
      'counts',
      { code: 'leads', strategy: 'count' },
    ],
    [{ wrong: 3, timeTells: false }, 'not yet', { code: 'mostly-wrong' }],
    [{ pAutomatic: 0.2, answers: 2, shares: [0.1, 0.1, 0.7, 0.1] }, 'counts', { code: 'leads', strategy: 'count' }],
    [{ pAutomatic: 0.21, shares: [0.1, 0.1, 0.7, 0.1] }, 'in between', { code: 'in-between' }],
    [{ pAutomatic: 0.1, shares: [0.1, 0.7, 0.1, 0.1] }, 'works out', { code: 'leads', strategy: 'derive' }],
    [{ pAutomatic: 0.1, shares: [0.1, 0.1, 0.1, 0.7] }, 'not yet', { code: 'leads', strategy: 'guess' }],
    // No way leads that is no likelier than remembering.
    [{ pAutomatic: 0.1, shares: [0.4, 0.1, 0.3, 0.2] }, 'in between', { code: 'in-between' }],
    [{ pAutomatic: 0.1, shares: [0.4, 0.1, 0.4, 0.1] }, 'in between', { code: 'in-between' }],
    [{ wrong: 3 }, 'not yet', { code: 'mostly-wrong' }],
    [{ answers: 4, wrong: 2 }, 'knows', { code: 'quick-on-days' }],
  ] as [Partial<Judged>, string, object][])('%j is %s (%j)', (change, reading, reason) => {
    expect(wordFor({ ...judged, ...change })).toEqual({ reading, reason });
  });
});
