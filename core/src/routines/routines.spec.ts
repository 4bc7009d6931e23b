import { every, playRoutine, rightly } from './play';
import fc, { TRIES } from '../testing/property';
import { parseFact } from '../facts/fact';
import { parseQuestion } from '../facts/question';
import { pick, seeded, type Random } from '../random/random';
import { ROUTINES, routineOf, sittingAsks } from './index';
import { drawPicture as drawNamed, type Picture } from './picture';
import { OPTION_NAMES, USUAL_OPTIONS, valuesOf, type Options } from './options';
import { cautionsOf, FORMS, isRight, optionsFor, SEEN_LAYOUTS, type Ask, type RoutineWish } from './routine';
import { WORD_CHOICES } from './classWords';

const NAMES = new Proxy({} as Record<Picture['show'] | 'cover', string>, { get: (_, show) => String(show) });
const drawPicture = (picture: Picture) => drawNamed(picture, NAMES);

const FACTS_PLANNED = ['3+4', 'show:6:dice', 'bond:7:3', '4+?=10', '7-3', '?+2=6', '8-?=5'];
const wishes = fc.record({
  layout: fc.constantFrom(...SEEN_LAYOUTS),
  options: fc.record(
    Object.fromEntries(OPTION_NAMES.map((name) => [name, fc.constantFrom(...valuesOf(name))])),
  ) as unknown as fc.Arbitrary<Options>,
  things: fc.constantFrom(...WORD_CHOICES.things),
  facts: fc
    .tuple(fc.constantFrom([], FACTS_PLANNED), fc.constantFrom(...FORMS))
    .map(([facts, form]) => facts.map((fact) => ({ fact, form }))),
  sitters: fc.integer({ min: 1, max: 4 }),
  workingNumber: fc.constantFrom(null, 5),
  times: fc.constantFrom(null, { handSeconds: 1.2, paceSeconds: 0.7 }),
  shows: fc.integer({ min: 1, max: 24 }),
  zeroToo: fc.boolean(),
  wholeFrom: fc.integer({ min: 2, max: 6 }),
  wholeTo: fc.integer({ min: 6, max: 10 }),
  warmUp: fc.constantFrom('copies' as const, 'counts' as const, 'none' as const),
});
const WISH: RoutineWish = {
  layout: 'frame-fives',
  shows: 12,
  zeroToo: false,
  wholeFrom: 3,
  wholeTo: 6,
  warmUp: 'none',
  options: USUAL_OPTIONS,
  things: 'lanterns',
  facts: ['3+4', 'show:6:frame-fives', 'bond:7:3', '4+?=10', 'show:3:scatter'].map((fact) => ({
    fact,
    form: 'symbols' as const,
  })),
  sitters: 1,
  workingNumber: null,
  times: null,
};
const count = (text: string, what: string): number => text.split(what).length - 1;
const asksOf = (id: string, change: Partial<RoutineWish> = {}, seed = 3): Ask[] =>
  routineOf(id).asks(seeded(seed), { ...WISH, ...change });

const possible = (ask: Ask, random: Random): string => pick(random, every(ask));

describe.each(ROUTINES.map((routine) => [routine.id, routine] as const))('the routine %s', (_, routine) => {
  it('puts questions that can be answered, drawn and said, whatever was wished', () => {
    fc.assert(
      fc.property(fc.integer(), wishes, (seed, wish) => {
        const played = playRoutine(routine, wish, seed, possible);
        expect(played).toEqual(playRoutine(routine, wish, seed, possible));
        expect(played.length).toBeGreaterThan(0);
        const recorded = played.filter(({ ask }) => ask.fact !== null);
        expect(recorded.length).toBeLessThan(routine.choices.includes('length') ? 12 * wish.shows + 12 : 40);
        expect(played.length).toBeLessThan(3 * recorded.length + 12);
        for (const { ask } of played) {
          if (ask.fact !== null) expect(parseQuestion(ask.fact).text).toBe(ask.fact);
          const drawn = drawPicture(ask.picture);
          expect(drawn.svg).toMatch(/^<svg .*<\/svg>$/);
          expect(drawn.svg).not.toMatch(/undefined|NaN/);
          if (ask.flash) expect(['none', 'second-look']).toContain(ask.aid);
          // Every question leaves a row; only a cut and a number of the child's own have no right answer.
          if (ask.fact === null) expect(['talk', 'cut', 'board']).toContain(ask.want.by);
          // Whatever is asked can be answered rightly with what is offered.
          if (ask.want.by !== 'talk') expect(every(ask).some((given) => isRight(ask, given))).toBe(true);
        }
      }),
      // There are 37 of them, and each is played twice.
      { numRuns: Math.ceil(TRIES / 4) },
    );
  });
});

describe('routines', () => {
  it('have ids of their own, and an unknown one is told', () => {
    expect(new Set(ROUTINES.map((r) => r.id)).size).toBe(ROUTINES.length);
    expect(() => routineOf('hopscotch')).toThrow(RangeError);
  });

  it('warm up between real questions, after the first; a child who is new names two numerals within five', () => {
    const asks = sittingAsks(seeded(1), routineOf('sums'), { ...WISH, warmUp: 'counts' });
    const warm = Array.from({ length: 16 }, (_, i) => i < 8 && i % 2 === 1);
    expect(asks.map((a) => a.warmUp)).toEqual(warm);
    expect(asks[1]?.fact).toMatch(/^count:[4-9]:scatter$/);
    const chained = sittingAsks(seeded(1), routineOf('flash-and-build'), { ...WISH, warmUp: 'copies' });
    expect(chained.findIndex((ask) => ask.warmUp)).toBe(chained.findIndex((ask, i) => i > 0 && !ask.goesOn));
    for (let seed = 0; seed < 20; seed++) {
      const first = sittingAsks(seeded(seed), routineOf('sums'), { ...WISH, warmUp: 'copies', times: null });
      const copied = first.flatMap((ask) => (ask.warmUp ? [Number(ask.fact?.split(':')[1])] : []));
      expect(copied).toHaveLength(2);
      expect(Math.max(...copied)).toBeLessThanOrEqual(5);
    }
    expect(sittingAsks(seeded(1), routineOf('learn-frame'), { ...WISH, warmUp: 'copies' }).some((a) => a.warmUp)).toBe(
      false,
    );
  });

  it('never ask for the same answer twice running where that can be helped', () => {
    for (const id of ['sums', 'take-away', 'missing-part', 'flash-and-say', 'hide-and-picture']) {
      const answers = asksOf(id, { shows: 24 }).flatMap(({ fact }) => (fact === null ? [] : [parseFact(fact).answer]));
      answers.slice(1).forEach((answer, i) => expect([id, i, answer]).not.toEqual([id, i, answers[i]]));
    }
  });

  it('shut no pair out: every pair of the wholes comes before one comes twice', () => {
    const facts = asksOf('sums', { wholeFrom: 4, wholeTo: 5, zeroToo: true, shows: 11 }).map((a) => a.fact);
    expect(new Set(facts).size).toBe(11);
    expect(facts.sort()).toEqual(['0+4', '0+5', '1+3', '1+4', '2+2', '2+3', '3+1', '3+2', '4+0', '4+1', '5+0'].sort());
  });

  it('rising means in order, and objects are never a proof', () => {
    const rising = { options: { ...USUAL_OPTIONS, order: 'rising' as const, help: 'objects' as const } };
    expect(asksOf('flash-and-say', { ...rising, shows: 4 }).map((a) => a.fact)).toEqual(
      [1, 2, 3, 4].map((n) => `show:${n}:frame-fives`),
    );
    expect(asksOf('sums', rising).map((a) => a.aid)).toEqual(Array<string>(12).fill('objects'));
    expect(cautionsOf(routineOf('sums'), rising.options)).toEqual(['objects']);
    expect(cautionsOf(routineOf('sums'))).toEqual([]);
    expect(cautionsOf(routineOf('flash-and-say'))).toEqual(['flash']);
  });

  it('use only the options they offer', () => {
    const chosen = { ...USUAL_OPTIONS, counters: 'things' as const, help: 'objects' as const };
    expect(optionsFor(routineOf('sums'), chosen)).toEqual({ ...USUAL_OPTIONS, help: 'objects' });
    expect(optionsFor(routineOf('past-ten'), chosen)).toEqual(USUAL_OPTIONS);
  });

  it('one cut goes on where the child cut, and never makes an empty part', () => {
    const played = playRoutine(routineOf('one-cut'), { ...WISH, shows: 3, wholeFrom: 6, wholeTo: 6 }, 4, rightly);
    expect(played.map((a) => a.ask.fact)).toEqual([
      'show:6:line',
      ...[1, 2, 3].flatMap((cut) => [
        null,
        `side:${cut}:${6 - cut}`,
        `bond:6:${cut}`,
        null,
        ...(cut === 3 ? [] : [null]),
      ]),
    ]);
  });

  it('all the ways: found once each, checked half way, done when none is left', () => {
    const wish = { ...WISH, wholeFrom: 4, wholeTo: 4 };
    const played = playRoutine(routineOf('all-the-ways'), wish, 1, rightly);
    expect(played.map((a) => a.given)).toEqual(['0+4', '1+3', '2+2', '', '3+1', '4+0', '']);
    const stubborn = playRoutine(routineOf('all-the-ways'), wish, 1, () => '1+3');
    expect(stubborn.filter((a) => a.right && a.given !== '')).toHaveLength(1);
    expect(stubborn).toHaveLength(16);
    const [held] = playRoutine(
      routineOf('all-the-ways'),
      { ...wish, options: { ...USUAL_OPTIONS, ways: 'withheld' } },
      1,
      rightly,
    );
    expect([held?.right, held?.ask.picture]).toEqual([
      true,
      expect.objectContaining({ ways: expect.arrayContaining([null]) as unknown }),
    ]);
  });
});

describe('draws', () => {
  it('doubles: all up to the number before one comes twice', () =>
    expect(
      asksOf('doubles', { wholeFrom: 8, wholeTo: 8, shows: 8 })
        .slice(0, 4)
        .map((ask) => ask.fact)
        .sort(),
    ).toEqual(['1+1', '2+2', '3+3', '4+4']));

  it('a frame that changes moves by a few counters, and each number comes', () => {
    const counts = asksOf('changing-frame', { shows: 20 }).flatMap(({ picture, changes }) =>
      picture.show === 'frame' && changes ? [picture.count] : [],
    );
    [5, ...counts].slice(1).forEach((n, i) => {
      const before = [5, ...counts][i]!;
      expect(n === before || Math.abs(n - before) > 4).toBe(false);
    });
    expect(new Set([5, ...counts]).size).toBe(10);
  });

  it('“how many” counts cards, whatever is asked of each', () => {
    const pictured = (id: string): number => new Set(asksOf(id, { shows: 3 }).map((ask) => JSON.stringify(ask.picture))).size; // prettier-ignore
    expect([pictured('ten-card'), pictured('talk-about-it')]).toEqual([3, 3]);
    expect(asksOf('family', { shows: 3 }).filter((ask) => !ask.goesOn)).toHaveLength(3);
    expect(asksOf('stick', { shows: 3 }).filter((ask) => !ask.goesOn)).toHaveLength(3);
  });

  it('the last question asks about the child’s own number; the door of a close is no proof', () => {
    expect(asksOf('exit-question', { workingNumber: 9 })[0]?.fact).toMatch(/^bond:9:/);
    const played = playRoutine(routineOf('close'), { ...WISH, wholeFrom: 5, wholeTo: 5, sitters: 2 }, 3, (ask) =>
      ask.want.by === 'pair' ? '2+3' : rightly(ask),
    );
    const recap = played.find(({ ask }) => ask.prompt.say === 'recap');
    expect(recap?.ask.picture).toMatchObject({ ways: [[2, 3]] });
    const door = played.filter(({ ask }) => ask.fact?.startsWith('bond'));
    expect(door.map(({ ask }) => ask.aid)).toEqual(['prompt', 'prompt']);
  });
});

describe('pictures', () => {
  it('hold as many dots as they say, in every layout', () => {
    for (const layout of ['dice', 'domino', 'mirror', 'line'] as const) {
      for (let n = 0; n <= (layout === 'dice' ? 9 : 10); n++)
        expect([layout, n, count(drawPicture({ show: 'spots', layout, count: n }).svg, '<circle')]).toEqual([
          layout,
          n,
          n,
        ]);
    }
    for (let n = 0; n <= 10; n++) {
      const beads = drawPicture({ show: 'spots', layout: 'beads', count: n }).svg;
      expect([
        count(beads, 'fill="currentColor"'),
        count(beads, 'fill="none" stroke="currentColor" stroke-width="0.08"'),
      ]).toEqual([Math.min(5, n), Math.max(0, n - 5)]);
      expect(count(drawPicture({ show: 'spots', layout: 'fingers', count: n }).svg, 'class="out"')).toBe(n);
    }
  });

  it('cross off what is gone, and tell two parts apart without colour', () => {
    const crossed = drawPicture({ show: 'crossed-off', count: 8, gone: 3, direction: 'rows' }).svg;
    expect([count(crossed, '<circle'), count(crossed, '<path d="M')]).toEqual([8, 3]);
    const moved = drawPicture({ show: 'moved-out', count: 8, gone: 3, direction: 'rows' }).svg;
    expect([count(moved, '<circle'), count(moved, '<path')]).toEqual([8, 0]);
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
      for (const ask of routine.asks(seeded(2), WISH))
        expect(/aria-label="([^"]*)"/.exec(drawPicture(ask.picture).svg)?.[1]).not.toMatch(/\d/);
    }
  });

  it('refuse what does not fit', () => {
    expect(() => drawPicture({ show: 'spots', layout: 'dice', count: 10 })).toThrow(RangeError);
    expect(() => drawPicture({ show: 'spots', layout: 'beads', count: 11 })).toThrow(RangeError);
  });
});
