import { seeded } from '../random/random';
import { playRoutine, rightly } from '../testing/playRoutine';
import { routineOf, ROUTINES } from './index';
import { USUAL_OPTIONS } from './options';
import type { RoutineId } from './routineIds';
import type { Answered, RoutineWish } from './routine';

const WISH: RoutineWish = {
  layout: 'frame-fives',
  shows: 5,
  zeroToo: false,
  wholeFrom: 7,
  wholeTo: 7,
  warmUp: 'none',
  options: USUAL_OPTIONS,
  things: 'lanterns',
  facts: [],
  sitters: 1,
  workingNumber: 4,
  times: null,
};

/** What was said, in order: each question, and behind an arrow what comes once its answer stands, where that is more than thanks. */
const said = (played: readonly Answered[]): string[] =>
  played.map(({ ask: { prompt, after } }) =>
    after.say === 'thanks' || after.say === 'how-known' ? prompt.say : `${prompt.say} → ${after.say}`,
  );

const KNOWN = 'how-many-now';
/**
 * The order of every routine, as practitioners keep it: the script of one round, everything answered rightly. What differs from number to number is fixed by the wish.
 */
const SCRIPTS: Record<
  Exclude<RoutineId, 'planned'>,
  { readonly wish?: Partial<RoutineWish>; readonly says: readonly string[] }
> = {
  'learn-frame': {
    says: [
      'boxes',
      'boxes-top',
      'boxes-below',
      'start-box → rule-start',
      'rule-row',
      'fill → follow-up',
      'fill → follow-up',
      'fill → follow-up',
      'anywhere',
      'fill → follow-up',
      'which-easier',
      'fill-empty → follow-up',
      'fill-full → follow-up',
    ],
  },
  'make-it': {
    says: ['fill → follow-up', 'how-many-more', 'whole-sentence', 'child-sets', 'wrong-on-purpose → say-sentence'],
  },
  'objects-to-numeral': { wish: { shows: 1 }, says: ['match-objects'] },
  'flash-and-say': { wish: { shows: 1, layout: 'dice' }, says: ['how-many-seen → how-seen'] },
  'flash-and-build': {
    wish: { options: { ...USUAL_OPTIONS, order: 'rising' }, shows: 45 },
    says: [
      ...[1, 2, 3, 4].flatMap(() => ['build-seen', 'check-own', 'how-many-more']),
      ...['build-seen', 'check-own', 'whole-row', 'empty-boxes'],
      ...[6, 7, 8].flatMap(() => ['build-seen → rows', 'check-own', 'top-row', 'lower-row', 'in-all']),
      ...['build-seen → rows', 'check-own', 'top-row', 'lower-row', 'in-all', 'empty-boxes'],
    ],
  },
  'changing-frame': { wish: { shows: 2 }, says: [`${KNOWN} → count-or-see`, 'empty-boxes'] },
  'talk-about-it': {
    wish: { shows: 1, options: { ...USUAL_OPTIONS, order: 'rising' } },
    says: [KNOWN, 'how-many-more', 'one-more', 'one-less'],
  },
  'same-or-different': { wish: { shows: 1 }, says: ['same-or-different'] },
  'which-more': { wish: { shows: 2 }, says: ['which-more', 'make-equal'] },
  'one-more': { wish: { shows: 2 }, says: ['how-many-seen', 'and-one-more → one-more-than'] },
  'equal-groups': { wish: { shows: 2 }, says: ['how-many-groups', 'count-in'] },
  'to-five': { wish: { shows: 1 }, says: ['how-many-more'] },
  'hide-and-picture': { wish: { shows: 1 }, says: ['picture-it', 'card-back'] },
  'one-cut': {
    wish: { shows: 1 },
    says: [`${KNOWN} → write-whole`, 'where-to-cut', 'this-side', 'other-side', 'parts-sentence', 'turned-sentence'],
  },
  stick: {
    wish: { shows: 3 },
    says: ['in-all → write-whole', 'this-part', 'hidden-part', 'parts-sentence', 'turned-sentence'],
  },
  'moving-counters': {
    wish: { wholeFrom: 2, wholeTo: 2 },
    says: [
      'write-whole',
      ...['this-side', 'moved-one → parts-sentence'],
      ...['this-side', 'moved-one → parts-sentence'],
      ...['this-side', 'moved-one → turned-sentence'],
    ],
  },
  dominoes: {
    says: ['in-all → write-whole', 'this-half', 'other-half', 'turned', 'hidden-part', 'parts-sentence'],
  },
  'part-whole': { wish: { shows: 3 }, says: ['find-whole', 'find-part', 'find-part'] },
  'folded-fingers': { wish: { shows: 1 }, says: ['folded', 'turn-hand'] },
  chance: { wish: { shows: 1 }, says: ['die'] },
  'all-the-ways': {
    wish: { wholeFrom: 4, wholeTo: 4 },
    says: ['a-way', 'a-way', 'a-way', 'all-yet', 'a-way', 'withheld-way', 'ways-done'],
  },
  'five-card': { wish: { shows: 1 }, says: [KNOWN, 'empty-boxes', 'sentence', 'sentence'] },
  'ten-card': {
    wish: { shows: 1, options: { ...USUAL_OPTIONS, order: 'rising' } },
    says: [KNOWN, 'how-many-more', 'five-to-ten', 'empty-boxes', 'sentence', 'sentence'],
  },
  story: { wish: { shows: 3 }, says: ['story-told', 'story → say-sentence', 'sentence → own-story'] },
  cards: { wish: { shows: 2 }, says: ['sentence → remember-card', 'sentence'] },
  sums: { wish: { shows: 1 }, says: ['sentence'] },
  doubles: { wish: { shows: 1, wholeFrom: 6, wholeTo: 6 }, says: ['sentence'] },
  'crossed-off': {
    wish: { shows: 3, options: { ...USUAL_OPTIONS, away: 'row' } },
    says: ['start-full', 'row-goes', 'undo → say-sentence'],
  },
  'take-away': { wish: { shows: 1 }, says: ['sentence'] },
  'missing-part': {
    wish: { shows: 2, options: { ...USUAL_OPTIONS, help: 'picture' } },
    says: ['count-up → say-sentence', 'sentence → say-sentence'],
  },
  family: { wish: { shows: 4 }, says: ['sentence', 'sentence', 'sentence', 'sentence'] },
  'three-parts': {
    wish: { shows: 8 },
    says: ['three-parts', 'three-parts', 'three-missing', 'find-ten', 'three-parts'],
  },
  'past-ten': {
    wish: { shows: 9 },
    says: [
      ...['nearer-ten', 'to-ten', 'split', 'move-enough', 'left-over'],
      ...['sentence', 'sentence', 'sentence', 'sentence'],
    ],
  },
  'hides-ten': { wish: { shows: 4 }, says: ['hides-ten', 'where-ten', 'hides-ten', 'where-move'] },
  'working-number': {
    wish: { workingNumber: 10 },
    says: ['check-start', 'find-part', 'find-part', 'find-part', 'check-thanks'],
  },
  'exit-question': { says: ['find-part'] },
  close: { says: ['way-each', 'recap', 'tell-one', 'find-part'] },
};

describe('the order of each routine', () => {
  it('is written down for every one', () =>
    expect(Object.keys(SCRIPTS).sort()).toEqual(
      ROUTINES.map(({ id }) => id as string)
        .filter((id) => id !== 'planned')
        .sort(),
    ));

  it.each(Object.entries(SCRIPTS))('%s', (id, { wish, says }) => {
    expect(said(playRoutine(routineOf(id), { ...WISH, ...wish }, 3, rightly))).toEqual(says);
  });
});

describe('in a routine', () => {
  const asks = (id: RoutineId, change: Partial<RoutineWish> = {}) =>
    routineOf(id).asks(seeded(3), { ...WISH, ...change });

  it('past ten: frames are in view from the first question, the greater is kept and the other split', () => {
    const [which, gap, split, move, left, ...sentences] = asks('past-ten', { shows: 9 });
    const [a = 0, b = 0] = (which?.fact ?? '').split(':').slice(1).map(Number);
    const [near, far] = [Math.max(a, b), Math.min(a, b)];
    expect(which?.picture).toMatchObject({ over: { show: 'two-frames', first: a, second: b } });
    expect([gap, split, move, left].map((ask) => ask?.fact)).toEqual([
      `${near}+?=10`,
      `bond:${far}:${10 - near}`,
      `${near}+${far}:move`,
      `${far}-${10 - near}`,
    ]);
    expect(sentences.map((ask) => ask.fact)).toEqual([
      `10+${near + far - 10}`,
      `${near}+${far}`,
      `${far}+${near}`,
      `${near + far - 10}+10`,
    ]);
  });

  it('what goes away goes from a full frame, and five as the whole row', () => {
    const [full, first] = asks('crossed-off', { layout: 'five', shows: 9 });
    expect([full?.picture, first?.fact]).toEqual([expect.objectContaining({ count: 5 }), expect.stringMatching(/^5-/)]);
    for (const { picture, fact } of asks('crossed-off', { shows: 19 }).filter((ask) => ask.picture.show !== 'frame'))
      expect(picture).toMatchObject({ count: 10, ...(fact === '10-5' ? { firstRow: true } : {}) });
  });

  it('a missing part is never drawn: what there is, and a ring round the total', () => {
    const options = { ...USUAL_OPTIONS, help: 'picture' as const, gap: 'anywhere' as const };
    for (const { picture, aid } of asks('missing-part', { shows: 12, options })) {
      if (picture.show !== 'sentence') throw new Error('a missing part is a sentence');
      expect([picture.over?.show ?? null, aid]).toEqual(picture.over ? ['up-to', 'picture'] : [null, 'none']);
    }
    const last = asks('missing-part', { shows: 3, options }).at(-1);
    expect(last?.note).toEqual({ say: 'silent' });
  });

  it('the child sets a number, and what the adult then says of it is wrong', () => {
    const played = playRoutine(routineOf('make-it'), WISH, 3, (ask) =>
      ask.prompt.say === 'child-sets' ? '8' : rightly(ask),
    );
    const { ask } = played.at(-1)!;
    expect(ask.prompt).toMatchObject({ say: 'wrong-on-purpose', fact: '8+?=10' });
    expect(ask.prompt.say === 'wrong-on-purpose' && ask.prompt.claim).not.toBe(2);
  });

  it('questions that belong together stay with one child', () => {
    const goes = asks('flash-and-build', { shows: 20 }).map((ask) => [ask.prompt.say, ask.goesOn]);
    for (const [say, goesOn] of goes) expect([say, goesOn]).toEqual([say, say !== 'build-seen']);
  });
});
