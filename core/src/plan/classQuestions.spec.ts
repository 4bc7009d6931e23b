import { factsWithinTen, isNumberFact, parseFact } from '../facts/fact';
import type { ReadingWord } from '../reading/reading';
import { lastWeekBefore } from '../reading/overTime';
import { someReading } from '../testing/reading';
import { dayOfDate } from '../time/schoolDay';
import { openerFor } from './opener';
import { placeOf } from './place';
import { readyFor } from './ready';
import { childSession } from './session';
import { anotherWay, stuckOn } from './stuck';
import { whoKnows } from './whoKnows';
import { notable } from './notable';

const sums = (p: (whole: number) => number, responses = 4) =>
  factsWithinTen('add').map((text) => {
    const fact = parseFact(text);
    const own = isNumberFact(fact) ? p(fact.whole) : 0;
    return someReading(text, { pAutomatic: own, reading: own >= 0.8 ? 'knows' : 'counts', responses });
  });
const upTo = (known: number, above = 0.1) => sums((whole) => (whole <= known ? 0.95 : above));
const NOW = Date.parse('2026-11-27T12:00:00Z');
const pairsSession = (readings: ReturnType<typeof sums>, whole: number) =>
  childSession(
    { readings, lastAsked: new Map(), now: NOW, timeZone: 'UTC', aim: 'practise', count: 8 },
    { need: 'pairs', whole },
  );

describe('a child’s place', () => {
  it('is the working number, and the help that the plan asks its pairs with', () => {
    expect(placeOf([])).toEqual({ number: null, allKnown: false, help: 'objects' });
    expect(placeOf(upTo(5))).toEqual({ number: 6, allKnown: false, help: 'picture' });
    expect(placeOf(upTo(5, 0.25))).toMatchObject({ number: 6, help: 'remembered' });
    expect(placeOf(upTo(10))).toMatchObject({ number: null, allKnown: true, help: 'symbols' });
    // Nothing of the new number was asked yet.
    const known = upTo(5).filter((r) => r.pAutomatic > 0.5);
    expect(placeOf(known)).toMatchObject({ number: 6, help: 'objects' });
  });

  it.each([0.1, 0.25, 0.45])('and the plan’s questions agree, where the pairs stand at %d', (above) => {
    const readings = upTo(5, above);
    const { help, number } = placeOf(readings);
    const { facts } = pairsSession(readings, number ?? 0);
    const forms = new Set(facts.filter((f) => f.role === 'need').map((f) => f.form));
    expect([...forms].sort()).toEqual(
      { objects: ['picture'], picture: ['picture', 'remembered'], remembered: ['remembered'], symbols: ['symbols'] }[
        help
      ],
    );
  });
});

describe('a child who is stuck', () => {
  const today = dayOfDate('2026-11-27');
  const week = (monday: string, word: ReadingWord, workingNumber: number | null = 6) => ({
    child: '',
    week: monday,
    words: { '2+4': word, '4+2': word },
    workingNumber,
  });
  const weeks = [week('2026-10-26', 'counts'), week('2026-11-09', 'counts'), week('2026-11-16', 'counts')];

  it('has been asked, works on the same number as three weeks ago, and reads no better', () => {
    expect(stuckOn(weeks, upTo(5), today)).toMatchObject({ number: 6 });
    expect(stuckOn(weeks, upTo(5), today)?.facts).toHaveLength(2);
  });

  it('is not one who moved, was hardly heard, or has no record that long', () => {
    const better = upTo(5).map((r) => (r.fact === '2+4' ? { ...r, reading: 'knows' as const } : r));
    expect(stuckOn(weeks, better, today)).toBeNull();
    expect(stuckOn(weeks, upTo(6), today)).toBeNull();
    expect(stuckOn(weeks.slice(0, 2), upTo(5), today)).toBeNull();
    expect(stuckOn(weeks.slice(1), upTo(5), today)).toBeNull();
  });

  it('is asked another way: what suits the need and was not used lately, never what the plan asks anyway', () => {
    const pairs = { need: 'pairs', whole: 6 } as const;
    expect(anotherWay(pairs, ['planned'])).toBe('one-cut');
    expect(anotherWay(pairs, ['planned', 'one-cut', 'sums'])).toBe('all-the-ways');
    expect(anotherWay(pairs, ['one-cut', 'all-the-ways', 'sums'])).toBeNull();
  });
});

describe('what a child is ready for', () => {
  it('is the next step that is open and new', () => {
    expect(readyFor([])).toBeNull();
    expect(readyFor(upTo(10))).toEqual({ step: 'past ten' });
    expect(readyFor(upTo(6))).toMatchObject({ step: 'take-away' });
    const taken = [...upTo(6), someReading('6-2', { responses: 5 })];
    expect(readyFor(taken)).toMatchObject({ step: 'missing part' });
    const both = [...taken, someReading('2+?=6', { responses: 5 })];
    expect(readyFor(both)).toBeNull();
  });
});

describe('what suits most', () => {
  it('is the need that most children share, with a routine for it', () => {
    const at = (child: string, whole: number) => ({ child, need: { need: 'pairs', whole } as const });
    expect(openerFor([])).toBeNull();
    expect(openerFor([at('a', 5), at('b', 6), at('c', 6)])).toMatchObject({
      need: { whole: 6 },
      children: ['b', 'c'],
      routine: 'part-whole',
    });
  });
});

describe('who knows', () => {
  const readings = [
    someReading('2+3', { child: 'a', reading: 'knows' }),
    someReading('3+2', { child: 'a', reading: 'counts' }),
    someReading('2+3', { child: 'b', reading: 'in between', lean: -0.1 }),
    someReading('2+3', { child: 'c', responses: 0 }),
    someReading('show:3:five', { child: 'c', reading: 'knows' }),
  ];
  const all = ['a', 'b', 'c'];

  it('a fact, a number or a step: as most of its facts stand', () => {
    const at = (topic: Parameters<typeof whoKnows>[0]) => [...whoKnows(topic, all, readings).values()];
    expect(at({ about: 'fact', fact: '2+3' })).toEqual(['known', 'not settled', 'not asked']);
    expect(at({ about: 'number', number: 5 })).toEqual(['counted', 'not settled', 'not asked']);
    expect(at({ about: 'need', need: { need: 'seeing' } })).toEqual(['not asked', 'not asked', 'known']);
  });
});

describe('the fact worth seeing', () => {
  it('is of the working number and open; else open; else the one with most answers', () => {
    const known = someReading('1+1', { reading: 'knows', responses: 9 });
    const open = someReading('2+2', { responses: 5 });
    const own = someReading('2+3', { responses: 2 });
    expect(notable([known, open, own], 5)).toEqual({ fact: '2+3', why: 'of-the-number' });
    expect(notable([known, open], 5)).toEqual({ fact: '2+2', why: 'not-known' });
    expect(notable([known], 5)).toEqual({ fact: '1+1', why: 'most-answers' });
    expect(notable([], 5)).toBeNull();
  });
});

describe('the week before a day', () => {
  it('is the last one that had ended', () => {
    const weeks = ['2026-11-02', '2026-11-16', '2026-11-09'].map((week) => ({ child: '', week, words: {} }));
    expect(lastWeekBefore(weeks, dayOfDate('2026-11-15'))?.week).toBe('2026-11-09');
    expect(lastWeekBefore(weeks, dayOfDate('2026-11-14'))?.week).toBe('2026-11-02');
    expect(lastWeekBefore(weeks, dayOfDate('2026-11-07'))).toBeNull();
  });
});
