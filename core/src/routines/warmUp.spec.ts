import { warmUpNeeded } from './warmUp';

describe('measures of a child', () => {
  it.each([
    [{ copies: {}, counts: 0 }, 'tap', 'copies'],
    [{ copies: { tap: 4 }, counts: 0 }, 'tap', 'counts'],
    [{ copies: { tap: 4 }, counts: 4 }, 'tap', 'none'],
    [{ copies: { tap: 40 }, counts: 4 }, 'spoken', 'copies'],
  ] as const)('%j in %s asks for %s', (lately, mode, warmUp) => expect(warmUpNeeded(lately, mode)).toBe(warmUp));
});
