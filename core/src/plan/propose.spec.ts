import fc from '../testing/property';
import { factsWithinTen, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { someReading } from '../testing/reading';
import { expectedGain } from './expectedGain';
import { offerOf, type Aim, type Offered } from './offer';
import { proposeFacts, type ProposeWish } from './propose';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 25, 9);
/** Less than so many days ago is today: it is nine in the morning. */
const TODAY = 9 / 24;
const word = (p: number): Reading['reading'] => (p >= 0.8 ? 'knows' : p <= 0.2 ? 'counts' : 'too few answers');
const read = (fact: string, p: number, more: Partial<Reading> = {}): Reading =>
  someReading(fact, { reading: word(p), pAutomatic: p, certainty: 0.7, responses: 4, ...more });
const whole = (fact: string): number => {
  const parsed = parseFact(fact);
  return 'whole' in parsed ? parsed.whole : parsed.answer;
};
/** A child who knows their sums up to a number and counts beyond. */
const sumsTo = (known: number): Reading[] => [
  ...[1, 2, 3, 4, 5].map((n) => read(`show:${n}:five`, 0.95)),
  ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => read(`show:${n}:frame-fives`, 0.95)),
  ...[0, 1, 2, 3, 4, 5].map((n) => read(`${n}+?=5`, 0.9)),
  ...factsWithinTen('add')
    .filter((f) => whole(f) >= 2)
    .map((f) => read(f, whole(f) <= known ? 0.95 : 0.1)),
];
const wish = (readings: readonly Reading[], more: Partial<ProposeWish> = {}): ProposeWish => ({
  readings,
  lastAsked: new Map(readings.map((r) => [r.fact, NOW - 3 * DAY])),
  now: NOW,
  timeZone: 'UTC',
  aim: 'practise',
  gainOf: expectedGain,
  count: 12,
  ...more,
});

describe('what is on offer', () => {
  it('is pairs up to the working number and the next, and take-away only where sums are safe', () => {
    const offer = offerOf(sumsTo(5), 'practise');
    const wholes = (step: string): number[] =>
      [...new Set(offer.filter((o) => o.step === step).map((o) => whole(o.fact)))].sort((a, b) => a - b);
    expect(wholes('pairs')).toEqual([2, 3, 4, 5, 6, 7]);
    expect(Math.max(...wholes('take-away'))).toBe(5);
    expect(offer.filter((o) => o.fact === '3+3').map((o) => o.place)).toEqual(['at']);
    expect(offer.filter((o) => o.fact === '3+4').map((o) => o.place)).toEqual(['next']);
  });

  it('takes a picture that was never shown for what its neighbours are', () => {
    const p = (readings: Reading[], fact: string): number | undefined =>
      offerOf(readings, 'judge').find((o) => o.fact === fact)?.p;
    const seen = [read('show:1:frame-fives', 0.98), read('show:2:frame-pairs', 0.9), read('show:9:frame-fives', 0.2)];
    expect(p(seen, 'show:1:five')).toBeCloseTo(0.94, 10);
    expect(p(seen, 'show:8:frame-fives')).toBeCloseTo(0.2, 10);
    expect(p(seen, 'show:5:five')).toBe(0.5);
    expect(p(seen, '4+3')).toBe(0.25);
  });

  it('opens the ten anchor when five is safe', () => {
    const anchors = (p: number) =>
      offerOf(
        [0, 1, 2, 3, 4, 5].map((n) => read(`${n}+?=5`, p)),
        'practise',
      ).filter((o) => o.step === 'ten anchor').length;
    expect([anchors(0.2), anchors(0.9)]).toEqual([0, 9]);
  });
});

describe('proposed facts', () => {
  it('to judge need to be told what questions tell', () => {
    const { gainOf, ...without } = wish(sumsTo(5), { aim: 'judge' });
    expect(() => proposeFacts(without)).toThrow('what questions tell');
    expect(proposeFacts({ ...without, gainOf: gainOf! })).toHaveLength(12);
  });

  const kinds = fc.record({
    known: fc.integer({ min: 1, max: 10 }),
    aim: fc.constantFrom('judge' as const, 'practise' as const),
    count: fc.integer({ min: 1, max: 20 }),
  });

  describe('from a few on offer', () => {
    const offered = (fact: string, p: number, more: Partial<Offered> = {}): Offered => ({
      fact,
      step: 'pairs',
      place: 'at',
      answer: parseFact(fact).answer,
      whole: whole(fact),
      p,
      reading: read(fact, p),
      ...more,
    });
    const asked = (offer: Offered[], more: Partial<ProposeWish> = {}) =>
      proposeFacts(wish([], { offer, lastAsked: new Map(), count: 9, ...more }));

    it('leave what was asked today for later', () => {
      const lastAsked = new Map([
        ['2+2', NOW - DAY / 24],
        ['3+3', NOW - 3 * DAY],
      ]);
      for (const aim of ['judge', 'practise'] as const) {
        const order = asked([offered('1+2', 0.9), offered('2+2', 0.5), offered('3+3', 0.5)], { aim, lastAsked }).map(
          (p) => p.fact,
        );
        expect([aim, order.indexOf('3+3') < order.indexOf('2+2')]).toEqual([aim, true]);
      }
    });

    it('say whether it is new, the next number, or nearly known', () => {
      const found = asked([
        offered('1+2', 0.9),
        offered('2+2', 0.5),
        offered('3+4', 0.5, { place: 'next' }),
        offered('2+3', 0.5, { reading: null }),
      ]);
      expect(Object.fromEntries(found.map((p) => [p.fact, p.why]))).toEqual({
        '1+2': 'sure-start',
        '2+2': 'to-learn',
        '3+4': 'next-number',
        '2+3': 'never-asked',
      });
    });

    describe('where only worth decides: of two that are alike but in one thing, the better one comes first', () => {
      const FACTS = ['2+2', '3+3', '4+4', '3+6', '5+5', '1+1', '1+2', '1+4', '6+1'];
      interface Case {
        readonly p: number;
        readonly responses: number;
        /** Days since it was asked; null = never. */
        readonly days: number | null;
        readonly next: boolean;
      }
      const one: fc.Arbitrary<Case> = fc.record({
        p: fc.integer({ min: 1, max: 74 }).map((n) => n / 100),
        responses: fc.integer({ min: 0, max: 6 }),
        days: fc.constantFrom(0.1, 0.5, 0.7, 2, 9, null),
        next: fc.boolean(),
      });
      const all = fc.array(one, { minLength: FACTS.length, maxLength: FACTS.length });
      /** Each has an answer of its own, and is like no other. */
      const order = (cases: readonly Case[], more: Partial<ProposeWish>): string[] =>
        asked(
          FACTS.map((fact, i) => {
            const { p, responses, next } = cases[i]!;
            const reading = read(fact, p, { reading: 'too few answers', responses, days: 1 });
            return offered(fact, p, { whole: 10 * i, place: next ? 'next' : 'at', reading });
          }),
          {
            lastAsked: new Map(
              FACTS.flatMap((fact, i) => {
                const { days } = cases[i]!;
                return days === null ? [] : [[fact, NOW - days * DAY] as const];
              }),
            ),
            ...more,
          },
        ).map((found) => found.fact);
      /** What comes first is chosen for being sure, so that a case in which one of the two is first tells nothing. */
      const holds = (
        more: Partial<ProposeWish>,
        better: (worse: Case) => Case,
        { among = fc.constantFrom([0, 1], [2, 4], [3, 1], [5, 6], [8, 7]), base = (c: Case): Case => c } = {},
      ): void => {
        fc.assert(
          fc.property(all, among, (cases, [i, j]) => {
            const set = cases.map(base);
            set[j] = better(set[i]!);
            const found = order(set, more);
            const [worse, best] = [found.indexOf(FACTS[i]!), found.indexOf(FACTS[j]!)];
            fc.pre(worse > 0 && best > 0 && JSON.stringify(set[i]) !== JSON.stringify(set[j]));
            expect(best).toBeLessThan(worse);
          }),
        );
      };

      it.each<[string, Aim, (worse: Case) => Case]>([
        ['to practise: what is nearer to being known', 'practise', (c) => ({ ...c, p: Math.min(0.6, c.p + 0.1) })],
        [
          'to practise: what was not asked today',
          'practise',
          (c) => ({ ...c, days: (c.days ?? 9) < TODAY ? 2 : c.days }),
        ],
        ['to practise: this number before the next', 'practise', (c) => ({ ...c, next: false })],
      ])('%s', (_, aim, better) => {
        // Beyond what matters at all nothing is to be seen: there the two are alike.
        const inReach = (c: Case): Case => (aim === 'practise' ? { ...c, p: 0.01 + (c.p * 0.5) / 0.74 } : c);
        holds({ aim }, better, { base: inReach });
      });

      it('to practise what is known: what has faded more', () => {
        const known = (c: Case): Case => ({ ...c, p: 0.76 + c.p / 4, days: c.days ?? 1 });
        holds({ halfLife: 5 }, (c) => ({ ...c, days: c.days! + 3 }), { base: known });
      });
    });
  });

  it('say why they are asked: beyond the first, nothing is called sure that is not', () => {
    const unsure = [1, 2, 3, 4, 5].map((n) => read(`show:${n}:five`, 0.3, { responses: 1 }));
    const proposed = proposeFacts(wish(unsure, { count: 8 }));
    expect(proposed[0]?.why).toBe('sure-start');
    for (const { why } of proposed.slice(1)) expect(['to-learn', 'never-asked', 'next-number']).toContain(why);
  });

  it('start with something sure, never repeat a fact or, where that can be helped, an answer, and are the same each time', () => {
    fc.assert(
      fc.property(kinds, ({ known, aim, count }) => {
        const proposed = proposeFacts(wish(sumsTo(known), { aim, count }));
        expect(proposed).toHaveLength(count);
        expect(proposed).toEqual(proposeFacts(wish(sumsTo(known), { aim, count })));
        expect(new Set(proposed.map((p) => p.fact)).size).toBe(count);
        if (known > 2) expect(proposed[0]).toMatchObject({ why: 'sure-start' });
        const answers = proposed.map((p) => parseFact(p.fact).answer);
        answers.slice(1).forEach((answer, i) => expect(answer).not.toBe(answers[i]));
      }),
    );
  });

  it('come right about four times in five, and new ones never run on for long', () => {
    const proposed = proposeFacts(wish(sumsTo(6), { count: 15 }));
    const isNew = proposed.map((p) => p.pAutomatic < 0.75);
    expect(isNew.filter((n) => !n).length).toBeGreaterThanOrEqual(4);
    expect(isNew.map(Number).join('')).not.toContain('1111');
  });

  it('to judge: first what could be either way; to practise: first what is nearly known', () => {
    const readings = [...sumsTo(5), read('2+4', 0.5, { certainty: 0.1 }), read('4+2', 0.35, { certainty: 0.1 })];
    const target = (aim: 'judge' | 'practise') =>
      proposeFacts(wish(readings, { aim, offer: offerOf(readings, 'practise').filter((o) => o.reading) })).find(
        (p) => p.why === 'unsure' || p.why === 'to-learn',
      )?.fact;
    expect(target('judge')).toBe('2+4');
    expect(target('practise')).toBe('2+4');
    const far = proposeFacts(wish(readings, { aim: 'practise' })).findIndex((p) => p.why === 'next-number');
    expect(far === -1 || far > 2).toBe(true);
  });

  it('leaves out what the teacher does not want, and what was asked today comes later', () => {
    const readings = [...sumsTo(5), read('2+4', 0.5, { certainty: 0.1 }), read('4+2', 0.48, { certainty: 0.1 })];
    const first = (more: Partial<ProposeWish>) =>
      proposeFacts(
        wish(readings, { aim: 'judge', offer: offerOf(readings, 'practise').filter((o) => o.reading), ...more }),
      ).find((p) => p.why === 'unsure')?.fact;
    expect(first({ without: new Set(['2+4']) })).toBe('4+2');
    expect(first({ lastAsked: new Map([['2+4', NOW - 3600_000]]) })).toBe('4+2');
  });

  it('brings back what fades, the sooner for a child that forgets soon', () => {
    const fading = (halfLife: number) =>
      proposeFacts(
        wish(sumsTo(10), {
          halfLife,
          count: 8,
          lastAsked: new Map(sumsTo(10).map((r) => [r.fact, NOW - (r.fact === '3+4' ? 30 : 1) * DAY])),
        }),
      );
    expect(
      fading(8)
        .slice(0, 3)
        .map((p) => p.fact),
    ).toContain('3+4');
  });
});

describe('what is asked to find out', () => {
  const wholes = (readings: readonly Reading[]): number[] => {
    const numbers = offerOf(readings, 'judge').filter(({ fact }) => !fact.startsWith('show:'));
    return [...new Set(numbers.map((one) => one.whole))].sort((a, b) => a - b);
  };
  const all = (['add', 'missing', 'subtract'] as const).flatMap((operation) => factsWithinTen(operation));

  it('stays near the child’s number, and goes further when little is left to find out there', () => {
    expect(wholes([])).toEqual([3, 4, 5, 6, 7]);
    const upTo = (known: number) =>
      all.map((text) => read(text, whole(text) < 6 ? 0.95 : whole(text) <= known ? 0.5 : 0.4));
    expect(wholes(upTo(6))).toEqual([4, 5, 6, 7, 8]);
    // All around six is as good as found out: five known, eight counted.
    const sure = all.map((text) => read(text, whole(text) < 6 ? 0.95 : whole(text) <= 9 ? 0.05 : 0.5));
    expect(wholes(sure)).toContain(10);
  });
});
