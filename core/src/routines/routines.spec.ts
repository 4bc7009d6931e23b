import fc from 'fast-check';
import { parseFact } from '../facts/fact';
import { seeded } from '../random/random';
import { ROUTINES, routineOf, sittingAsks } from './index';
import { drawPicture } from './picture';
import { factAloud, say, type Prompt } from './prompts';
import { SEEN_LAYOUTS, type Ask, type RoutineWish } from './routine';
import { USUAL_WORDS, WORD_CHOICES, type Words } from './words';

const wishes = fc.record({
  layout: fc.constantFrom(...SEEN_LAYOUTS),
  direction: fc.constantFrom('rows' as const, 'columns' as const),
  shows: fc.integer({ min: 1, max: 24 }),
  zeroToo: fc.boolean(),
  wholeFrom: fc.integer({ min: 2, max: 10 }),
  wholeTo: fc.integer({ min: 2, max: 10 }),
  warmUp: fc.constantFrom('copies' as const, 'counts' as const, 'none' as const),
});
const WISH: RoutineWish = { layout: 'frame-fives', direction: 'rows', shows: 12, zeroToo: false, wholeFrom: 3, wholeTo: 6, warmUp: 'none' };
const count = (text: string, what: string): number => text.split(what).length - 1;
const asksOf = (id: string, change: Partial<RoutineWish> = {}, seed = 3): Ask[] => routineOf(id).asks(seeded(seed), { ...WISH, ...change });

describe.each(ROUTINES.map((routine) => [routine.id, routine] as const))('the routine %s', (_, routine) => {
  it('puts questions that can be answered, drawn and said, whatever was wished', () => {
    fc.assert(
      fc.property(fc.integer(), wishes, (seed, wish) => {
        const asks = routine.asks(seeded(seed), wish);
        expect(asks).toEqual(routine.asks(seeded(seed), wish));
        expect(asks.length).toBeGreaterThanOrEqual(Math.min(wish.shows, 2) / 2);
        expect(asks.length).toBeLessThan(wish.shows + 5);
        for (const ask of asks) {
          const { answer } = parseFact(ask.fact);
          expect(answer).toBeGreaterThanOrEqual(0);
          expect(answer).toBeLessThanOrEqual(10);
          expect(drawPicture(ask.picture).svg).toMatch(/^<svg .*<\/svg>$/);
          expect(say(ask.prompt, USUAL_WORDS)).not.toMatch(/undefined|NaN/);
          if (ask.flash) expect(ask.aid).toBe('none');
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('routines', () => {
  it('have ids of their own, and an unknown one is told', () => {
    expect(new Set(ROUTINES.map((r) => r.id)).size).toBe(ROUTINES.length);
    expect(() => routineOf('hopscotch')).toThrow(RangeError);
  });

  it('begin with a warm-up when one is wished', () => {
    const asks = sittingAsks(seeded(1), routineOf('sums'), { ...WISH, warmUp: 'counts' });
    expect(asks.map((a) => a.warmUp)).toEqual([...Array<boolean>(4).fill(true), ...Array<boolean>(12).fill(false)]);
    expect(asks[0]?.fact).toMatch(/^count:[4-9]:scatter$/);
  });

  it('never ask for the same answer twice running where that can be helped', () => {
    for (const id of ['sums', 'take-away', 'missing-part', 'flash-and-say', 'hide-and-picture']) {
      const answers = asksOf(id, { shows: 24 }).map((a) => parseFact(a.fact).answer);
      answers.slice(1).forEach((answer, i) => expect([id, i, answer]).not.toEqual([id, i, answers[i]]));
    }
  });

  it('shut no pair out: every pair of the wholes comes before one comes twice', () => {
    const facts = asksOf('sums', { wholeFrom: 4, wholeTo: 5, zeroToo: true, shows: 11 }).map((a) => a.fact);
    expect(new Set(facts).size).toBe(11);
    expect(facts.sort()).toEqual(['0+4', '0+5', '1+3', '1+4', '2+2', '2+3', '3+1', '3+2', '4+0', '4+1', '5+0'].sort());
  });

  it('keep the order that practitioners keep', () => {
    const [n, empties, left] = asksOf('ten-card');
    const number = Number(n?.fact.split(':')[1]);
    expect([empties?.fact, left?.fact]).toEqual([`${number}+?=10`, `10-${10 - number}`]);
    expect([n?.aid, empties?.aid, left?.aid]).toEqual(['none', 'picture', 'picture']);
    expect(asksOf('family', { wholeFrom: 5, wholeTo: 5, shows: 4 }).map((a) => parseFact(a.fact).kind)).toEqual(['add', 'add', 'subtract', 'subtract']);
    const [told, read] = asksOf('story');
    expect([told?.aid, read?.aid, told?.fact]).toEqual(['picture', 'none', read?.fact]);
    const gaps = asksOf('missing-part', { shows: 3 }).map((a) => a.fact);
    expect(gaps.map((g) => [g.startsWith('?'), /^\d+=/.test(g)])).toEqual([
      [false, false],
      [true, false],
      [false, true],
    ]);
  });
});

describe('pictures', () => {
  it('hold as many dots as they say, in every layout', () => {
    for (const layout of ['dice', 'domino', 'mirror', 'line'] as const) {
      for (let n = 0; n <= (layout === 'dice' ? 9 : 10); n++)
        expect([layout, n, count(drawPicture({ show: 'spots', layout, count: n }).svg, '<circle')]).toEqual([layout, n, n]);
    }
    for (let n = 0; n <= 10; n++) {
      const beads = drawPicture({ show: 'spots', layout: 'beads', count: n }).svg;
      expect([count(beads, 'fill="currentColor"'), count(beads, 'fill="none" stroke="currentColor" stroke-width="0.08"')]).toEqual([
        Math.min(5, n),
        Math.max(0, n - 5),
      ]);
      expect(count(drawPicture({ show: 'spots', layout: 'fingers', count: n }).svg, 'fill="currentColor"')).toBe(n);
    }
  });

  it('cross off what is gone, and tell two parts apart without colour', () => {
    const crossed = drawPicture({ show: 'crossed-off', count: 8, gone: 3, direction: 'rows' }).svg;
    expect([count(crossed, '<circle'), count(crossed, '<path d="M')]).toEqual([8, 3]);
    const parts = drawPicture({ show: 'two-part', first: 3, second: 4, direction: 'columns' }).svg;
    expect([count(parts, 'fill="currentColor"'), count(parts, 'stroke-width="0.08"')]).toEqual([3, 4]);
  });

  it('leave the answer out of sentences and part-whole pictures, and out of every name', () => {
    const sentence = drawPicture({ show: 'sentence', fact: '8=3+?' }).svg;
    expect(sentence.replace(/<[^>]+>/g, ' ').match(/\d+|[+=−]/g)).toEqual(['8', '=', '3', '+']);
    expect(count(sentence, '<rect')).toBe(1);
    expect(
      drawPicture({ show: 'part-whole', whole: 9, first: null, second: 4 })
        .svg.replace(/<[^>]+>/g, ' ')
        .match(/\d+/g),
    ).toEqual(['9', '4']);
    for (const routine of ROUTINES) {
      for (const ask of routine.asks(seeded(2), WISH)) expect(/aria-label="([^"]*)"/.exec(drawPicture(ask.picture).svg)?.[1]).not.toMatch(/\d/);
    }
  });

  it('refuse what does not fit', () => {
    expect(() => drawPicture({ show: 'spots', layout: 'dice', count: 10 })).toThrow(RangeError);
    expect(() => drawPicture({ show: 'spots', layout: 'beads', count: 11 })).toThrow(RangeError);
  });
});

describe('the class’s words', () => {
  const prompts = (): Prompt[] => [
    ...ROUTINES.flatMap((routine) => routine.asks(seeded(5), { ...WISH, shows: 24, zeroToo: true }).flatMap((ask) => [ask.prompt, ask.after])),
    { say: 'count' },
    { say: 'copy' },
    { say: 'ready' },
  ];

  it.each(Object.keys(WORD_CHOICES) as (keyof Words)[])('are used for "%s" in every prompt, and the usual word nowhere beside them', (word) => {
    const usual = USUAL_WORDS[word];
    const used = prompts().filter((prompt) => new RegExp(`\\b${usual}s?\\b`).test(say(prompt, USUAL_WORDS)));
    for (const other of WORD_CHOICES[word].slice(1)) {
      const words = { ...USUAL_WORDS, [word]: other };
      for (const prompt of used) {
        const said = say(prompt, words);
        expect(said).toMatch(new RegExp(`\\b${other}s?\\b`));
        expect(said).not.toMatch(new RegExp(`\\b${usual}s?\\b`));
      }
    }
  });

  it('read a fact aloud', () => {
    expect(factAloud('3+5', USUAL_WORDS)).toBe('3 and 5 makes what?');
    expect(factAloud('8-3', { ...USUAL_WORDS, minus: 'minus', equals: 'equal' })).toBe('8 minus 3 equals what?');
    expect(factAloud('8=3+?', USUAL_WORDS)).toBe('8 makes 3 and what?');
    expect(factAloud('bond:9:4', USUAL_WORDS)).toBe('9 is 4 and what?');
  });
});
