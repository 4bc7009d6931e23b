import { parseFact } from '../facts/fact';
import { normal, seeded } from '../random/random';
import type { AnswerMode, Response } from '../record/response';
import { someResponse } from '../testing/response';
import { judgeClass } from './judgeChild';
import { DEFAULT_READING_SETTINGS, type Reading } from './reading';

const DAY = 86_400_000;
const FIRST = Date.parse('2026-11-02T09:00:00Z');

/** Beyond the hand, whatever that is: to remember, to begin counting, and for every item. */
const KNOWN_MS = 600;
const START_MS = 550;
const PACE_MS = 700;

/**
 * A child's record: four copies and two sets to count a day, and the same facts on eight days.
 * @param handMs median time of the hand in this mode
 * @param extraMs what an answer takes beyond the hand
 */
function recordOf(child: string, answerMode: AnswerMode, handMs: number, extraMs: number): Response[] {
  const random = seeded(7);
  const about = (ms: number): number => ms * Math.exp(0.12 * normal(random));
  const common = { child, answerMode, exposureMs: null } as const;
  return Array.from({ length: 8 }, (_, day) => {
    const at = FIRST + day * DAY;
    const copies = [3, 6, 2, 8].map((n, i) =>
      someResponse({
        ...common,
        id: `${child}${day}c${i}`,
        shownAt: at + i * 20_000,
        kind: 'match',
        fact: `match:${n}`,
        given: String(n),
        responseMs: about(handMs),
      }),
    );
    // What everybody knows comes quickly: it is there to compare with.
    const facts = [
      ...['1+1', '2+2', '2+1', '3+1'].map((fact) => ({ fact, extra: KNOWN_MS })),
      ...['3+4', '4+3', '5+3', '3+5'].map((fact) => ({ fact, extra: extraMs })),
    ].map(({ fact, extra }, i) =>
      someResponse({
        ...common,
        id: `${child}${day}f${i}`,
        shownAt: at + 200_000 + i * 20_000,
        kind: 'add',
        fact,
        given: String(parseFact(fact).answer),
        responseMs: about(handMs + extra),
      }),
    );
    const counts = [5, 8].map((n, i) =>
      someResponse({
        ...common,
        id: `${child}${day}n${i}`,
        shownAt: at + 100_000 + i * 20_000,
        kind: 'count',
        fact: `count:${n}:scatter`,
        given: String(n),
        responseMs: about(handMs + START_MS + n * PACE_MS),
      }),
    );
    return [...copies, ...counts, ...facts];
  }).flat();
}

const read = (responses: readonly Response[], child: string): Reading['reading'][] =>
  judgeClass(responses, { settings: DEFAULT_READING_SETTINGS })
    .flatMap(({ readings }) => readings)
    .filter((r) => r.child === child && r.fact === '3+4')
    .map((r) => r.reading);

describe('a child who points, or is spoken for', () => {
  // Others tap within a second and a quarter; this child's hand takes five.
  const others = ['a', 'b', 'c'].flatMap((name) => recordOf(name, 'tap', 1200, 500));

  it('knows what comes as soon as their own copies do, however slow the hand', () => {
    expect(read([...others, ...recordOf('points', 'show', 5000, 600)], 'points')).toEqual(['knows']);
  });

  it('is not taken to know what takes them as much longer as counting on three', () => {
    expect(read([...others, ...recordOf('points', 'show', 5000, START_MS + 3 * PACE_MS)], 'points')).not.toEqual([
      'knows',
    ]);
  });

  it('by the hand of others the same times would be counting', () => {
    const slow = recordOf('taps', 'tap', 1200, 4400);
    expect(read([...others, ...slow], 'taps')).not.toEqual(['knows']);
  });
});
