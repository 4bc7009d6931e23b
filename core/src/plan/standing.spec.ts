import { isFirm, nearer, standingOf } from './standing';

describe('how a fact stands', () => {
  it.each([
    ['knows', 0.9, 3, 'known'],
    ['works out', -0.2, 3, 'worked out'],
    ['counts', -0.9, 3, 'counted'],
    ['not yet', 0, 3, 'not yet'],
    ['in between', 0.01, 3, 'nearly known'],
    ['in between', 0, 3, 'not settled'],
    ['in between', -0.3, 3, 'not settled'],
    ['too few answers', 0.9, 1, 'not settled'],
    ['too few answers', 0.9, 0, 'not asked'],
  ] as const)('that reads "%s" with a lean of %d after %d answers: %s', (reading, lean, responses, standing) =>
    expect(standingOf({ reading, lean, responses })).toBe(standing),
  );

  it('is firm from two answers on two days on', () => {
    const firm = (responses: number, days: number): boolean => isFirm({ responses, days });
    expect([firm(1, 1), firm(2, 1), firm(2, 2), firm(9, 1)]).toEqual([false, false, true, false]);
  });

  it('without a reading is not asked; of two ways of asking the one nearer to knowing tells', () => {
    expect([standingOf(null), standingOf(undefined)]).toEqual(['not asked', 'not asked']);
    expect([nearer('counted', 'known'), nearer('nearly known', 'not asked')]).toEqual(['known', 'nearly known']);
  });
});
