import type { FactKind } from '../facts/fact';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { evidenceFor } from './evidence';
import { isEvidence, isJudged } from './evidenceOf';
import { unknownEstimate } from './judgeChild';
import type { ChildEstimate } from './reading';

const DAY = 86_400_000;
const answer = (change: Partial<Response> = {}): Response => someResponse({ shownAt: DAY, ...change });
const estimate = (times: Partial<ChildEstimate['times']> = {}, copies = 3): ChildEstimate => {
  const unknown = unknownEstimate('Nuru');
  return {
    ...unknown,
    times: { ...unknown.times, hand: { tap: 1.2 }, retrieve: 0.6, pace: 0.7, countsAll: 0.3, ...times },
    copies: { tap: copies },
  };
};

const evidenceAt = (fact: string, responses: readonly Response[], of: ChildEstimate, timeZone = 'UTC') =>
  evidenceFor(fact, responses, of, timeZone);

describe('what counts as evidence', () => {
  it('is a first look without help, not void, and timed soundly', () => {
    const spoils: Partial<Response>[] = [
      { void: 'spoiled' },
      { aid: 'prompt' },
      { aid: 'second-look' },
      { flags: ['hidden'] },
      { flags: ['dropped-frame', 'blurred'] },
    ];
    expect(spoils.map((change) => isEvidence(answer(change)))).toEqual(spoils.map(() => false));
    expect(
      [{}, { flags: ['dropped-frame' as const, 'slow-handler' as const] }].map((change) => isEvidence(answer(change))),
    ).toEqual([true, true]);
  });

  it('is of facts that can be known, not of the hand, the pace or a whole board', () => {
    const kinds: FactKind[] = [
      'add',
      'subtract',
      'missing',
      'bond',
      'show',
      'match',
      'count',
      'ways',
      'bridge',
      'three',
    ];
    expect(kinds.filter((kind) => isJudged(answer({ kind })))).toEqual(['add', 'subtract', 'missing', 'bond', 'show']);
  });
});

describe('evidence', () => {
  it('counts what was judged, and takes the middle of the right ones', () => {
    const responses = [
      answer({ responseMs: 1000 }),
      answer({ responseMs: 4000, shownAt: DAY + 5000 }),
      answer({ responseMs: 3000, shownAt: 2 * DAY }),
      answer({ responseMs: 9000, outcome: 'wrong', shownAt: 3 * DAY }),
      answer({ responseMs: null, shownAt: 3 * DAY }),
      answer({ responseMs: 8000, aid: 'prompt', shownAt: 4 * DAY }),
    ];
    expect(evidenceAt('3+4', responses, estimate())).toMatchObject({
      fact: '3+4',
      judged: 5,
      right: 4,
      days: 3,
      usualMs: 3000,
      mode: 'tap',
    });
    expect(evidenceAt('3+4', [answer({ responseMs: null })], estimate()).usualMs).toBeNull();
  });

  it('counts days of the school’s calendar', () => {
    // Six answers within eleven minutes of a Sydney morning, over midnight in UTC.
    const morning = Date.parse('2026-11-25T23:55:00Z');
    const answers = [0, 2, 4, 6, 8, 11].map((minute) => answer({ shownAt: morning + minute * 60_000 }));
    expect(evidenceAt('3+4', answers, estimate(), 'Australia/Sydney').days).toBe(1);
    expect(evidenceAt('3+4', answers, estimate(), 'Europe/London').days).toBe(2);
  });

  it('says how many right answers are nearer to remembering than to counting, where time can tell', () => {
    const answers = [1500, 1700, 2000, 4600, 5000].map((responseMs) => answer({ responseMs }));
    const signed = answer({ responseMs: 4900, sign: 'counted', outcome: 'wrong' });
    expect(evidenceAt('3+4', [...answers, signed], estimate())).toMatchObject({
      likeKnowing: 3,
      likeCounting: 2,
      timeTells: true,
      signs: { counted: 1, knew: 0 },
    });
    expect(evidenceAt('6+1', answers.slice(0, 3), estimate())).toMatchObject({
      likeKnowing: 0,
      likeCounting: 0,
      timeTells: false,
    });
  });

  it('is shown for the way most answers came in', () => {
    const spoken = (n: number, change: Partial<Response> = {}) =>
      Array.from({ length: n }, () => answer({ answerMode: 'spoken', ...change }));
    expect(evidenceAt('3+4', [answer(), ...spoken(2)], estimate()).mode).toBe('spoken');
    expect(evidenceAt('3+4', [answer(), ...spoken(2, { void: 'spoiled' })], estimate()).mode).toBe('tap');
    expect(evidenceAt('3+4', spoken(1, { void: 'spoiled' }), estimate()).mode).toBe('spoken');
  });

  it('says where the hand, memory and counting land for this child', () => {
    const { handMs, handBand, knownBand, countingMs } = evidenceAt('3+4', [], estimate());
    expect(handMs).toBeGreaterThan(1100);
    expect(handMs).toBeLessThan(1300);
    // Four fifths: as far below as above, by ratio.
    expect(handBand.fromMs).toBeLessThan(handMs);
    expect(handBand.fromMs * handBand.toMs).toBeCloseTo(handMs ** 2, 3);
    expect(knownBand.fromMs).toBeGreaterThan(handBand.fromMs);
    expect(knownBand.toMs).toBeGreaterThan(handBand.toMs);
    expect(countingMs).toBeGreaterThan(handMs + 3 * 700);
  });

  it('counts on or counts all, as this child mostly does', () => {
    const on = evidenceAt('3+4', [], estimate({ countsAll: 0.5 }));
    const all = evidenceAt('3+4', [], estimate({ countsAll: 0.51 }));
    expect([on.countsAll, on.steps, all.countsAll, all.steps]).toEqual([false, 3, true, 7]);
    expect(all.countingMs - on.countingMs).toBeGreaterThan(4 * 600);
  });

  it('says whether the hand was measured or borrowed', () => {
    expect([2, 3].map((copies) => evidenceAt('3+4', [], estimate({}, copies)).handIsOwn)).toEqual([false, true]);
    expect(evidenceAt('3+4', [answer({ answerMode: 'spoken' })], estimate()).handIsOwn).toBe(false);
    expect(evidenceAt('3+4', [], unknownEstimate('Cleo'))).toMatchObject({
      judged: 0,
      usualMs: null,
      handIsOwn: false,
      mode: 'tap',
    });
  });
});
