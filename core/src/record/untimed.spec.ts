import { untimedAnswer } from './untimed';

const asked = { id: 'r1', child: 'c1', sitting: 's1', shownAt: 0, fact: '3+4' };

describe('an answer that nobody timed', () => {
  it.each([
    ['7', 'correct'],
    ['8', 'wrong'],
    ['', 'none'],
  ])('given as "%s" is %s, and has no time', (given, outcome) => {
    const made = untimedAnswer({ ...asked, given });
    expect([made.kind, made.outcome, made.exposureMs, made.responseMs]).toEqual(['add', outcome, null, null]);
  });
  it('keeps what was seen and what helped', () =>
    expect(untimedAnswer({ ...asked, fact: '2+?=5', given: '3', sign: 'counted', aid: 'objects' })).toMatchObject({
      kind: 'missing',
      outcome: 'correct',
      sign: 'counted',
      aid: 'objects',
    }));
});
