import { simulateClass, type SimulatedClass } from '../rehearsal/class';
import type { Response } from '../record/response';
import { LONG } from '../testing/property';
import { someResponse } from '../testing/response';
import { CLASS_BEFORE } from './classValues';
import { classValues, judgeChild as judgeInClass, judgeClass } from './judgeChild';
import type { JudgeOptions } from './judgeChild';
import { DEFAULT_READING_SETTINGS } from './reading';

const OPTIONS = { settings: DEFAULT_READING_SETTINGS };
const DAY = 86_400_000;
const judgeChild = (child: string, responses: readonly Response[], options: JudgeOptions) =>
  judgeInClass(child, responses, CLASS_BEFORE, options);

const simulated = (seed: number, children = 8): SimulatedClass => {
  let id = 0;
  return simulateClass({
    seed,
    names: Array.from({ length: children }, (_, i) => `child-${i}`),
    weeks: 6,
    until: Date.UTC(2026, 5, 10),
    makeId: () => String(id++).padStart(6, '0'),
  });
};

/** Rows of one child by hand: seconds and days by fact, with copies of 1.2 s before. */
function rows(
  answers: readonly [fact: string, seconds: number, day: number, given?: string][],
  handSeconds = 1.2,
): Response[] {
  const copies = [1, 2, 3, 4].map((n) => [`match:${n}`, handSeconds, 0] as [string, number, number]);
  return [...copies, ...answers].map(([fact, seconds, day, given], i) => {
    const answer =
      given ??
      String(
        fact.startsWith('match')
          ? fact.split(':')[1]
          : fact.startsWith('show')
            ? fact.split(':')[1]
            : fact.split('+').reduce((sum, n) => sum + Number(n), 0),
      );
    return someResponse({
      id: String(i).padStart(4, '0'),
      child: 'Nuru',
      sitting: `s${day}`,
      shownAt: day * DAY + i * 5000,
      kind: fact.startsWith('match') ? 'match' : fact.startsWith('show') ? 'show' : 'add',
      fact,
      responseMs: seconds * 1000,
      given: answer,
      outcome: given === undefined ? 'correct' : 'wrong',
    });
  });
}
const reading = (responses: readonly Response[], fact: string) =>
  judgeChild('Nuru', responses, OPTIONS).readings.find((r) => r.fact === fact);

describe('one wrong tap', () => {
  it('moves a fact with much evidence little, and is no reason to call it counted', () => {
    const ten = Array.from({ length: 10 }, (_, i): [string, number, number] => ['3+5', 1.7, i]);
    const before = reading(rows(ten), '3+5')!;
    const after = reading(rows([...ten, ['3+5', 1.8, 10, '7']]), '3+5')!;
    expect(before.reading).toBe('knows');
    expect(after.reading).toBe('knows');
    expect(before.pAutomatic - after.pAutomatic).toBeLessThan(0.15);
  });
});

describe('different days', () => {
  /** Six quick right answers within eleven minutes of a morning in Sydney, over midnight in UTC. */
  const morning = Array.from({ length: 6 }, (_, i) =>
    someResponse({
      id: `m${i}`,
      child: 'Nuru',
      shownAt: Date.parse('2026-11-24T23:55:00Z') + i * 130_000,
      responseMs: 1300,
    }),
  );
  const copies = rows([]).map((r, i) => ({ ...r, shownAt: Date.parse('2026-11-24T23:50:00Z') + i * 5000 }));
  const inZone = (timeZone: string) =>
    judgeChild('Nuru', [...copies, ...morning], { settings: { ...DEFAULT_READING_SETTINGS, timeZone } }).readings.find(
      (r) => r.fact === '3+4',
    );

  it('are the school’s: one morning is one day, and nothing is known from it alone', () => {
    const sydney = inZone('Australia/Sydney');
    expect([sydney?.days, sydney?.responses, sydney?.reading]).toEqual([1, 6, 'too few answers']);
    expect(sydney?.reason).toEqual({ code: 'needs-another-day' });
    expect([inZone('UTC')?.days, inZone('UTC')?.reading]).toEqual([2, 'knows']);
  });
});

describe('judging', () => {
  it('recovers what simulated children know, far better than chance and honestly (seed 3; seeds 3, 4, 5 and more children in the long run)', () => {
    let brier = 0;
    let n = 0;
    let known = 0;
    let knownRight = 0;
    let base = 0;
    for (const seed of LONG ? [3, 4, 5] : [3]) {
      const { responses, truth } = simulated(seed, LONG ? 8 : 5);
      const isKnown = new Map(truth.map((t) => [`${t.child} ${t.fact}`, t.retrieveShare >= 0.8 ? 1 : 0]));
      for (const { readings } of judgeClass(responses, OPTIONS)) {
        for (const r of readings) {
          const y = isKnown.get(`${r.child} ${r.fact}`) ?? 0;
          brier += (r.pAutomatic - y) ** 2;
          base += y;
          n++;
          if (r.reading === 'knows') {
            known++;
            knownRight += y;
          }
        }
      }
    }
    const share = base / n;
    // Against always saying the base rate.
    expect(brier / n).toBeLessThan(0.4 * share * (1 - share));
    expect(known).toBeGreaterThan(LONG ? 100 : 20);
    expect(knownRight / known).toBeGreaterThan(0.93);
  });

  it('tells a quick child from one that counts, by the child’s own hand and not by a fixed limit', () => {
    const quickDays = [1, 2, 3, 4, 5, 6] as const;
    const knows = rows(quickDays.map((day) => ['3+4', 1.9, day]));
    const counts = rows(quickDays.map((day) => ['3+4', 5.0, day]));
    expect(reading(knows, '3+4')?.reading).toBe('knows');
    expect(reading(counts, '3+4')?.reading).toBe('counts');
    // A slow hand: five seconds are this child's way of knowing, though a fixed three seconds would say no.
    const slowHand = rows(
      quickDays.map((day) => ['3+4', 5.0, day]),
      4.2,
    );
    expect(reading(slowHand, '3+4')?.pAutomatic).toBeGreaterThan(0.5);
  });

  it('asks for another day before it says "knows"', () => {
    const oneDay = rows([1, 1, 1, 1, 1, 1, 1].map((day) => ['2+5', 1.7, day]));
    expect(reading(oneDay, '2+5')).toMatchObject({
      reading: 'too few answers',
      reason: { code: 'needs-another-day' },
      days: 1,
    });
  });

  it('says "not yet" when most answers are wrong, and asks for more when there is one', () => {
    expect(reading(rows([1, 2, 3, 4].map((day) => ['3+4', 2, day, '9'])), '3+4')?.reading).toBe('not yet');
    expect(reading(rows([['3+4', 1.6, 1]]), '3+4')).toMatchObject({
      reading: 'too few answers',
      reason: { code: 'needs-answers', more: 2 },
    });
  });

  it('leaves out void, flagged and aided answers, and says how many it judged', () => {
    const spoiled = rows([1, 2, 3, 4].map((day) => ['3+4', 6, day])).map((r, i): Response =>
      r.kind === 'match'
        ? r
        : { ...r, ...[{ void: 'spoiled' }, { flags: ['hidden' as const] }, { aid: 'prompt' as const }, {}][i % 4] },
    );
    expect(reading(spoiled, '3+4')?.responses).toBe(1);
  });

  it('judges an answer whose frame was dropped: its times carry their own stamps', () => {
    const dropped = rows([1, 2, 3].map((day) => ['3+4', 1.7, day])).map((r): Response => ({
      ...r,
      flags: ['dropped-frame', 'slow-handler'],
    }));
    expect(reading(dropped, '3+4')?.responses).toBe(3);
  });

  it('learns from a class what a child with few answers is likely to know', () => {
    const { responses } = simulated(12, 12);
    const values = classValues(responses);
    const few = rows([['3+4', 2.2, 1]]);
    const alone = judgeInClass('Nuru', few, CLASS_BEFORE, { ...OPTIONS, alsoFacts: ['0+5', '4+5'] }).readings;
    const inClass = judgeInClass('Nuru', few, values, { ...OPTIONS, alsoFacts: ['0+5', '4+5'] }).readings;
    const spread = (readings: typeof alone): number => readings[0]!.pAutomatic - readings[2]!.pAutomatic;
    // This class knows what has a zero in it and counts 4 + 5: so, more likely, does a new child.
    expect(inClass.map((r) => r.fact)).toEqual(['0+5', '3+4', '4+5']);
    expect(spread(inClass)).toBeGreaterThan(spread(alone));
  });

  it('a class that is too small or too young stays with the first guess', () => {
    expect(classValues([])).toBe(CLASS_BEFORE);
    expect(classValues(simulated(3, 2).responses)).toBe(CLASS_BEFORE);
  });

  it('is a function of its input alone: any order, same result', () => {
    const { responses } = simulated(9, 2);
    expect(judgeClass([...responses].reverse(), OPTIONS).find((j) => j.estimate.child === 'child-0')).toEqual(
      judgeClass(responses, OPTIONS).find((j) => j.estimate.child === 'child-0'),
    );
  });

  it.each<
    [what: string, responses: readonly Response[], read: readonly [fact: string, word: string, answers: number][]]
  >([
    ['nothing at all', [], []],
    ['three answers', rows([['1+1', 2, 1]]).slice(2, 5), [['1+1', 'too few answers', 1]]],
    [
      'no warm-up',
      rows([
        ['1+1', 2, 1],
        ['2+3', 3, 2],
      ]).filter((r) => r.kind !== 'match'),
      [
        ['1+1', 'too few answers', 1],
        ['2+3', 'too few answers', 1],
      ],
    ],
    [
      'always eight seconds',
      rows(
        [1, 2, 3, 4].map((day) => ['3+4', 8, day]),
        8,
      ),
      // Every number to copy takes as long: a slow hand.
      [['3+4', 'knows', 4]],
    ],
    [
      'no time ever',
      rows([1, 2, 3].map((day) => ['3+4', 2, day])).map((r) => ({ ...r, responseMs: null })),
      [['3+4', 'in between', 3]],
    ],
    [
      'zero and absurd times',
      rows([
        ['1+1', 0, 1],
        ['1+1', 590, 1],
      ]),
      [['1+1', 'too few answers', 2]],
    ],
  ])('gives sensible readings for %s', (_, responses, read) => {
    const { estimate, readings } = judgeChild('Nuru', responses, { ...OPTIONS, alsoFacts: ['4+5'] });
    for (const value of [estimate.times.retrieve, estimate.times.pace, ...Object.values(estimate.times.hand)])
      expect(value > 0.1 && value < 20).toBe(true);
    expect(readings.map((r) => [r.fact, r.reading, r.responses])).toEqual([...read, ['4+5', 'too few answers', 0]]);
    for (const { pAutomatic, lean, certainty } of readings)
      expect(Math.min(pAutomatic, 1 - pAutomatic, 1 - Math.abs(lean), certainty, 1 - certainty)).toBeGreaterThanOrEqual(
        0,
      );
  });

  it('reads facts without answers from the child’s level when asked to', () => {
    const { readings } = judgeChild('Nuru', rows([1, 2, 3].map((day) => ['3+4', 1.7, day])), {
      ...OPTIONS,
      alsoFacts: ['2+2', '4+5'],
    });
    expect(readings.map((r) => [r.fact, r.responses])).toEqual([
      ['2+2', 0],
      ['3+4', 3],
      ['4+5', 0],
    ]);
    expect(readings[0]?.reading).toBe('too few answers');
  });
});

describe('a hand that changes', () => {
  const FACTS = ['3+4', '4+3', '2+6', '5+3', '3+6', '4+5'];
  /** Known facts, each answered once a day with half a second to fetch it; the hand takes so many times 1.2 s on a day. No numeral is copied after the first day. */
  const answered = (days: number, hand: (day: number) => number, seconds = 0.5) =>
    rows(
      Array.from({ length: days }, (_, day) => day).flatMap((day) =>
        FACTS.map((fact, i): [string, number, number] => [
          fact,
          (1.2 * hand(day) + seconds) * (1 + 0.08 * (((i * 7 + day * 3) % 5) - 2)),
          day,
        ]),
      ),
    );
  const words = (responses: readonly Response[]): string[] =>
    judgeChild('Nuru', responses, OPTIONS).readings.map((r) => r.reading);

  it('is followed: what took longer since a new screen came is still known', () => {
    const responses = answered(12, (day) => (day < 7 ? 1 : 1.8));
    expect(words(responses)).toEqual(FACTS.map(() => 'knows'));
    const { hands } = judgeChild('Nuru', responses, OPTIONS).estimate;
    expect(Object.keys(hands.tap!).sort()).toEqual(['s10', 's11', 's7', 's8', 's9']);
    for (const offset of Object.values(hands.tap!)) expect(Math.abs(offset - Math.log(1.8))).toBeLessThan(0.25);
  });

  it('is even where nothing changed, and counting is not taken for a slow hand', () => {
    expect(
      judgeChild(
        'Nuru',
        answered(12, () => 1),
        OPTIONS,
      ).estimate.hands,
    ).toEqual({ tap: {} });
    expect(words(answered(12, () => 1, 3.2))).not.toContain('knows');
  });
});

describe('what one answer may say', () => {
  const two = (day: number): Response[] =>
    rows([
      ['3+4', 6, 1],
      ['3+4', 6.2, day],
    ]);
  const silent = (n: number): Response[] =>
    rows(Array.from({ length: n }, (_, i): [string, number, number] => ['3+4', 1.7, i])).map((r) =>
      r.kind === 'add' ? { ...r, given: '', outcome: 'none', responseMs: null } : r,
    );

  it('a fact gets its word from two answers on two days', () => {
    expect(reading(two(1), '3+4')).toMatchObject({ reading: 'too few answers', reason: { code: 'needs-another-day' } });
    expect(reading(two(2), '3+4')).toMatchObject({ reading: 'counts', responses: 2, days: 2 });
  });

  it('who says nothing gave no answer: none is counted, and nothing is called wrong', () => {
    expect(reading(silent(4), '3+4')).toMatchObject({ reading: 'too few answers', responses: 0, days: 0 });
    const known = rows([1, 2, 3, 4].map((day): [string, number, number] => ['3+4', 1.7, day]));
    const before = reading(known, '3+4')!;
    const after = reading(
      [...known, ...silent(2).map((r, i) => ({ ...r, id: `n${i}`, shownAt: 6 * DAY + i }))],
      '3+4',
    )!;
    expect(after).toMatchObject({ reading: before.reading, responses: 4, days: 4 });
    expect(before.pAutomatic - after.pAutomatic).toBeLessThan(0.1);
  });

  it('a right answer that took long is not known, though counting on one is over soon', () => {
    // With numerals named beside it, so that the hand is known to be even.
    const beside = (seconds: readonly number[]): Response[] =>
      rows(
        seconds.flatMap(
          (s, day) =>
            [
              ['match:3', 1.2, day],
              ['match:8', 1.2, day],
              ['1+4', s, day],
            ] as [string, number, number][],
        ),
      );
    const long = reading(beside([3.3, 3.7, 4.2, 5.9, 10]), '1+4')!;
    expect(['counts', 'works out', 'in between']).toContain(long.reading);
    expect(long.reason.code).not.toBe('ask-the-child');
    const quick = beside([1.8, 1.9, 2.4, 2.6]);
    expect(['probably-known', 'ask-the-child']).toContain(reading(quick, '1+4')!.reason.code);
  });
});
