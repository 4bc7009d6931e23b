import fc from '../testing/property';
import { seeded } from '../random/random';
import { checkState, quickSeconds } from './check';
import { followUps } from './followUps';
import { routineOf } from './index';
import { USUAL_OPTIONS } from './options';
import { isRight, type Answered, type RoutineWish } from './routine';

const TIMES = { handSeconds: 1.2, paceSeconds: 0.8 };
const WISH: RoutineWish = {
  layout: 'frame-fives',
  shows: 10,
  zeroToo: false,
  wholeFrom: 3,
  wholeTo: 6,
  warmUp: 'none',
  options: USUAL_OPTIONS,
  things: 'shells',
  facts: [],
  sitters: 1,
  workingNumber: null,
  times: TIMES,
};

/** A child who knows every pair up to `knows` and counts beyond, and is thought to be at `start`. */
function check(knows: number, start: number, seed: number): Answered[] {
  const random = seeded(seed);
  const wish = { ...WISH, workingNumber: start };
  const routine = routineOf('working-number');
  const asks = routine.asks(random, wish);
  const soFar: Answered[] = [];
  for (let i = 0; i < 60; i++) {
    if (i === asks.length) asks.push(...routine.follow!(soFar, random, wish));
    const ask = asks[i];
    if (!ask) return soFar;
    const [, whole = 0, part = 0] = (ask.fact ?? '').split(':').map(Number);
    const given = ask.fact === null ? '' : String(whole - part);
    soFar.push({ ask, given, right: isRight(ask, given), responseMs: whole <= knows ? 1700 : 6000, sign: null });
  }
  throw new Error('the check does not end');
}

describe('the working-number check', () => {
  it('finds the number wherever it begins, is over in 24 questions, and tells the adult alone', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 10 }),
        fc.integer({ min: 2, max: 10 }),
        fc.integer(),
        (knows, start, seed) => {
          const played = check(knows, start, seed);
          const { prompt, note } = played[played.length - 1]!.ask;
          expect(prompt).toEqual({ say: 'check-thanks' });
          expect(note).toEqual({ say: 'check-says', known: knows });
          expect(played.length).toBeLessThanOrEqual(26);
          // A number is passed by three pairs, all different.
          const facts = played.filter(({ ask }) => ask.fact?.startsWith(`bond:${knows}:`)).map(({ ask }) => ask.fact);
          expect(new Set(facts.slice(0, 3)).size).toBe(Math.min(3, facts.length));
        },
      ),
    );
  });

  it('is soon over when it begins at the right number', () => expect(check(6, 6, 1).length).toBeLessThanOrEqual(8));

  it('believes the adult’s eyes before the clock', () => {
    const asked = check(6, 6, 2).slice(0, 4);
    const seenCounting = asked.map((a) => ({ ...a, sign: 'counted' as const }));
    expect(checkState(6, asked, TIMES).known).toBe(6);
    expect(checkState(6, seenCounting, TIMES)).toEqual({ known: 1, next: 4 });
  });

  it('goes by this child’s own times, and by the usual rule without any', () => {
    expect(quickSeconds('bond:9:4', TIMES)).toBeGreaterThan(quickSeconds('bond:9:7', TIMES));
    expect(quickSeconds('bond:9:4', { handSeconds: 3, paceSeconds: 1.5 })).toBeGreaterThan(4.5);
    expect(quickSeconds('bond:9:4', null)).toBe(3);
    // Counting that is over at once: only the hand and the memory are left to go by.
    expect(quickSeconds('bond:9:9', TIMES)).toBeCloseTo(1.8, 5);
  });
});

describe('questions that suit a number', () => {
  const said = (n: number): string[] => followUps(n, { show: 'nothing' }).map((ask) => ask.prompt.say);
  it.each([
    [0, ['empty', 'one-more']],
    [4, ['how-many-more', 'one-more', 'one-less']],
    [5, ['whole-row', 'empty-boxes', 'one-more', 'one-less']],
    [7, ['top-row', 'lower-row', 'in-all', 'empty-boxes', 'one-more', 'one-less']],
    [9, ['top-row', 'lower-row', 'in-all', 'empty-boxes', 'one-more', 'one-less']],
    [10, ['full', 'one-less']],
  ])('for %i are %j', (n, prompts) => expect(said(n)).toEqual(prompts));

  it('ask for rows only when both are in play, and never prove anything', () => {
    for (let n = 0; n <= 10; n++) {
      expect(said(n).includes('top-row')).toBe(n > 5 && n < 10);
      expect(followUps(n, { show: 'nothing' }).every((ask) => ask.fact === null || ask.aid === 'picture')).toBe(true);
    }
  });
});
