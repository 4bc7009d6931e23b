import { factText, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { someReading } from '../testing/reading';
import { sessionOf } from './classPlan';
import { expectedGain } from './expectedGain';
import { isAt, isShort, nameOf } from './need';
import { workingNumber } from './workingNumber';
import type { ProposeWish } from './propose';
import { childSession, findingOut } from './session';

const NOW = Date.UTC(2026, 10, 25, 9);
const reading = (fact: string, p: number): Reading =>
  someReading(fact, { pAutomatic: p, reading: p > 0.8 ? 'knows' : 'counts' });
/** A child who knows the sums below a number and sees up to it; of the rest nothing is known. */
const upTo = (number: number, more: readonly Reading[] = []): Reading[] => [
  ...Array.from({ length: 10 }, (_, i) => reading(`show:${i + 1}:frame-fives`, 0.95)),
  ...Array.from({ length: 5 }, (_, i) => reading(`show:${i + 1}:five`, 0.95)),
  ...Array.from({ length: 6 }, (_, i) => reading(`${i}+?=5`, number > 5 ? 0.95 : 0.4)),
  ...Array.from({ length: number + 1 }, (_, whole) =>
    Array.from({ length: whole + 1 }, (_, a) => reading(factText('add', whole, a), whole < number ? 0.95 : 0.35)),
  ).flat(),
  ...more,
];
const wish = (readings: readonly Reading[], more: Partial<ProposeWish> = {}): ProposeWish => ({
  readings,
  lastAsked: new Map(),
  now: NOW,
  timeZone: 'UTC',
  aim: 'practise',
  count: 8,
  ...more,
});

describe('a child’s session', () => {
  it.each([3, 4, 5, 6, 7, 8, 9, 10])(
    'at %i asks most of its questions at its need and the child’s own number, rather fewer than empty ones',
    (number) => {
      const readings = upTo(number);
      const { need, facts } = childSession(wish(readings));
      const own = facts.filter((one) => one.role === 'need');
      expect(facts.length).toBeGreaterThanOrEqual(6);
      expect(own.length / facts.length).toBeGreaterThanOrEqual(5 / 8);
      for (const { fact } of own) expect([fact, isAt(need, fact)]).toEqual([fact, true]);
      if ('whole' in need) expect(need.whole).toBe(workingNumber(readings).number);
    },
  );

  it.each([5, 6, 7, 8, 9, 10])(
    'at %i asks at most one question that time cannot tell from counting, for whichever need',
    (number) => {
      for (const need of [
        { need: 'pairs', whole: number },
        { need: 'anchor', to: 5 },
      ] as const) {
        const { facts } = childSession(wish(upTo(number)), need);
        expect(facts.filter(({ fact }) => isShort(fact)).length).toBeLessThanOrEqual(1);
      }
    },
  );

  it('asks questions with a part of nought or one where the need has no others', () => {
    const { facts } = childSession(wish(upTo(3)), { need: 'pairs', whole: 3 });
    expect(facts.filter(({ role }) => role === 'need').length).toBeGreaterThan(1);
  });

  it('keeps warm only what is read as known, and says why a smaller number is taken apart', () => {
    const { facts } = childSession(wish(upTo(7)));
    for (const { role, reading: own } of facts) if (role === 'warm') expect(own?.reading).toBe('knows');
    const readings = upTo(7, [reading('6-2', 0.3), reading('?+2=6', 0.3)]);
    expect(childSession(wish(readings), { need: 'undoing', whole: 6 }).behind).toEqual({ asked: 5, known: 5 });
    expect(childSession(wish(readings), { need: 'undoing', whole: 7 }).behind).toBeUndefined();
  });

  it('begins with one that comes right, and mixes in another that is known', () => {
    const { facts } = childSession(wish(upTo(7)));
    expect(facts.map(({ role }) => role)).toEqual(['sure', 'need', 'need', 'need', 'warm', 'need', 'need', 'need']);
    for (const { role, pAutomatic } of facts) if (role !== 'need') expect(pAutomatic).toBeGreaterThan(0.75);
  });

  it('never gives the same answer twice running where that can be helped', () => {
    const answers = childSession(wish(upTo(8))).facts.map(({ fact }) => parseFact(fact).answer);
    for (const [i, answer] of answers.slice(1).entries()) expect(answer).not.toBe(answers[i]);
  });

  it('shows a child who was never asked small amounts on a five frame', () => {
    const { need, facts } = childSession(wish([]));
    expect(need).toEqual({ need: 'begin' });
    expect(facts.length).toBeGreaterThan(0);
    for (const { fact } of facts) expect(fact).toMatch(/^show:[1-5]:five$/);
  });

  it('moves on to a need that has waited, when two are worth the same', () => {
    const readings = upTo(
      6,
      Array.from({ length: 11 }, (_, i) => reading(`${i}+?=10`, 0.4)),
    );
    const today = new Map(
      readings.filter(({ fact }) => isAt({ need: 'pairs', whole: 6 }, fact)).map((r) => [r.fact, NOW]),
    );
    expect(nameOf(childSession(wish(readings)).need)).not.toBe(
      nameOf(childSession(wish(readings, { lastAsked: today })).need),
    );
  });
});

describe('a session to find out', () => {
  it('puts what nothing speaks for with a look at its picture, and what is known in symbols', () => {
    const { facts } = findingOut(wish(upTo(6), { aim: 'judge', gainOf: expectedGain }));
    const formOf = (isOne: (fact: string) => boolean): string[] => [
      ...new Set(facts.filter(({ fact }) => isOne(fact)).map(({ form }) => form)),
    ];
    expect(formOf((fact) => fact.includes('-'))).toEqual(['remembered']);
    expect(formOf((fact) => /^[12345]\+[12345]$/.test(fact) && parseFact(fact).answer < 6)).not.toContain('remembered');
    // A child for whom nothing is flashed has it in symbols, since a picture in view is not judged.
    const unflashed = findingOut(wish(upTo(6), { aim: 'judge', gainOf: expectedGain, support: ['no-flash'] }));
    expect(new Set(unflashed.facts.map(({ form }) => form))).toEqual(new Set(['symbols']));
  });

  it('begins with small amounts on a five frame where a child was never asked', () => {
    const { need, facts } = findingOut(wish([], { aim: 'judge', gainOf: expectedGain }));
    expect(need).toEqual({ need: 'begin' });
    for (const { fact } of facts) expect(fact).toMatch(/^show:[1-5]:five$/);
  });
});

describe('a session that was pinned or put off', () => {
  it('is known again by its children, whatever they work on by then', () => {
    const of = (...pairs: readonly (readonly [string, number])[]): string =>
      sessionOf(
        pairs.map(([child, whole]) => ({
          child,
          daysSince: 1,
          daysThisWeek: 0,
          need: { need: 'pairs', whole },
          facts: [],
        })),
      ).id;
    expect(of(['odo', 5], ['ivo', 6])).toBe(of(['ivo', 7], ['odo', 6]));
    expect(of(['odo', 5], ['ivo', 6])).not.toBe(of(['odo', 5], ['zadie', 6]));
  });
});
