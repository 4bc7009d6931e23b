import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseQuestion } from '../facts/question';
import { seeded } from '../random/random';
import { english } from '../words/english/index';
import { scriptInWords } from '../words/english/script';
import { USUAL_WORDS } from './classWords';
import { helpPicture, sayWith } from './reply';
import { SCRIPT_WISH, scriptOf } from './script';
import { playRoutine, rightly } from './play';
import { routineOf, ROUTINES } from './index';
import { USUAL_OPTIONS } from './options';
import type { RoutineId } from './routineIds';
import { rightAnswer, type Answered, type RoutineWish } from './routine';

const WISH: RoutineWish = { ...SCRIPT_WISH, sitters: 1, workingNumber: 4 };

/** What was said, in order: each question, and behind an arrow what comes once its answer stands, where that is more than thanks. */
const said = (played: readonly Answered[]): string[] =>
  played.map(({ ask: { prompt, after } }) =>
    after.say === 'thanks' || after.say === 'how-known' ? prompt.say : `${prompt.say} → ${after.say}`,
  );

const KNOWN = 'how-many → how-seen';
/** Flash and build, before the questions of the number. */
const CHECKED = ['build-seen → look-at-yours', 'same-as-yours → just-the-same', 'how-many → how-seen'];
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
      'fill → built',
      'fill → built',
      'fill → built',
      'anywhere → still',
      'fill → built',
      'which-easier',
      'fill-empty → built',
      'fill-full → built',
    ],
  },
  'make-it': {
    wish: { shows: 1 },
    says: ['fill → built', 'how-many-more', 'whole-sentence', 'child-sets', 'wrong-on-purpose'],
  },
  'objects-to-numeral': { wish: { shows: 1 }, says: ['match-objects'] },
  'flash-and-say': { wish: { shows: 1, layout: 'dice' }, says: ['how-many-seen → how-seen', 'own-pattern'] },
  'flash-and-build': {
    wish: { options: { ...USUAL_OPTIONS, order: 'rising' }, shows: 9 },
    says: [
      ...[1, 2, 3, 4].flatMap(() => [...CHECKED, 'how-many-more']),
      ...[...CHECKED, 'whole-row', 'empty-boxes'],
      ...[6, 7, 8, 9].flatMap(() => [...CHECKED, 'top-row', 'lower-row', 'in-all', 'empty-boxes']),
    ],
  },
  'changing-frame': {
    wish: { shows: 2 },
    says: ['count-aloud', 'empty-boxes', 'how-many-now → count-or-see', 'empty-boxes'],
  },
  'talk-about-it': {
    wish: { shows: 1, options: { ...USUAL_OPTIONS, order: 'rising' } },
    says: [KNOWN, 'how-many-more', 'one-more', 'one-less'],
  },
  'same-or-different': { wish: { shows: 1 }, says: ['same-or-different'] },
  'which-more': { wish: { shows: 1 }, says: ['which-more', 'make-equal', 'take-equal'] },
  'one-more': { wish: { shows: 1 }, says: ['how-many-seen → how-seen', 'and-one-more → one-more-than'] },
  'equal-groups': { wish: { shows: 1 }, says: ['how-many-groups', 'count-in'] },
  'to-five': { wish: { shows: 1 }, says: ['how-many-more'] },
  'hide-and-picture': { wish: { shows: 1 }, says: ['say-rule', 'picture-it', 'card-back'] },
  'one-cut': {
    wish: { shows: 1 },
    says: [
      'count-and-dot → write-whole',
      'where-to-cut → two-sides',
      'this-side',
      'other-side',
      'parts-sentence',
      'turned-sentence',
    ],
  },
  stick: {
    wish: { shows: 1 },
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
    wish: { shows: 1 },
    says: ['in-all → write-whole', 'this-half', 'other-half', 'turned', 'hidden-part', 'parts-sentence'],
  },
  'part-whole': { wish: { shows: 3 }, says: ['find-whole', 'find-part', 'find-part'] },
  'folded-fingers': { wish: { shows: 1 }, says: ['ten-out', 'folded', 'turn-hand'] },
  chance: { wish: { shows: 1 }, says: ['die'] },
  'all-the-ways': {
    wish: { wholeFrom: 4, wholeTo: 4 },
    says: [
      ...Array<string>(3).fill('a-way → new-way'),
      'all-yet',
      'a-way → new-way',
      'withheld-way → new-way',
      'ways-done',
    ],
  },
  'five-card': { wish: { shows: 1 }, says: [KNOWN, 'empty-boxes', 'sentence', 'sentence'] },
  'ten-card': {
    wish: { shows: 1, options: { ...USUAL_OPTIONS, order: 'rising' } },
    says: [KNOWN, 'how-many-more', 'five-to-ten', 'empty-boxes', 'sentence', 'sentence'],
  },
  story: { wish: { shows: 1 }, says: ['story-told', 'story', 'sentence'] },
  cards: { wish: { shows: 1 }, says: ['sentence', 'sentence'] },
  sums: { wish: { shows: 1 }, says: ['sentence'] },
  doubles: { wish: { shows: 1, wholeFrom: 6, wholeTo: 6 }, says: ['sentence'] },
  'crossed-off': {
    wish: { shows: 1, options: { ...USUAL_OPTIONS, away: 'row' } },
    says: ['start-full', 'row-goes', 'undo'],
  },
  'take-away': { wish: { shows: 1 }, says: ['sentence'] },
  'missing-part': {
    wish: { shows: 2, options: { ...USUAL_OPTIONS, help: 'picture' } },
    says: ['count-up', 'sentence'],
  },
  family: { wish: { shows: 1 }, says: ['sentence', 'sentence', 'sentence', 'sentence'] },
  'three-parts': {
    wish: { shows: 4 },
    says: ['three-parts', 'three-parts', 'three-missing', 'find-ten', 'three-parts'],
  },
  'past-ten': {
    wish: { shows: 1 },
    says: [
      ...['nearer-ten', 'to-ten', 'split', 'move-enough', 'left-over'],
      ...['sentence', 'sentence', 'sentence', 'sentence'],
    ],
  },
  'hides-ten': { wish: { shows: 2 }, says: ['hides-ten', 'where-ten', 'hides-ten', 'where-move'] },
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
    const [which, gap, split, move, left, ...sentences] = asks('past-ten', { shows: 1 });
    const [a = 0, b = 0] = (which?.fact ?? '').split(':').slice(1).map(Number);
    const [near, far] = [Math.max(a, b), Math.min(a, b)];
    // One picture throughout: the greater first, and afterwards what moved told apart.
    const stands = { over: { show: 'two-frames', first: near, second: far } };
    for (const ask of [which, gap, split, move]) expect(ask?.picture).toMatchObject(stands);
    const moved = { over: { show: 'two-frames', first: 10, second: near + far - 10, moved: 10 - near } };
    for (const ask of [left, ...sentences]) expect([ask?.aid, ask?.picture]).toMatchObject(['picture', moved]);
    expect([gap, split, move, left].map((ask) => ask?.fact)).toEqual([
      `${near}+?=10`,
      `bond:${far}:${10 - near}`,
      `${near}+${far}:move`,
      `left:${far}-${10 - near}`,
    ]);
    expect(sentences.map((ask) => ask.fact)).toEqual([
      `10+${near + far - 10}`,
      `${near}+${far}`,
      `${far}+${near}`,
      `${near + far - 10}+10`,
    ]);
  });

  it('what goes away goes from a full frame, and five as the whole row', () => {
    const [full, first] = asks('crossed-off', { layout: 'five', shows: 4 });
    expect([full?.picture, first?.fact]).toEqual([expect.objectContaining({ count: 5 }), expect.stringMatching(/^5-/)]);
    for (const { picture, fact } of asks('crossed-off', { shows: 9 }).filter((ask) => ask.picture.show !== 'frame'))
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
    const goes = asks('flash-and-build', { shows: 4 }).map((ask) => [ask.prompt.say, ask.goesOn]);
    for (const [say, goesOn] of goes) expect([say, goesOn]).toEqual([say, say !== 'build-seen']);
  });
});

/** Asked once more in a sentence of their own: a story is not told twice. */
const OWN_QUESTION = ['story', 'count-up', 'picture-it', 'wrong-on-purpose', 'undo', 'take-equal', 'row-goes'];
/** A number in figures, as a reply may name it. */
const names = (text: string, n: string): boolean => new RegExp(`(^|\\D)${n}(\\D|$)`).test(text);

describe('every routine, with every outcome', () => {
  it.each(ROUTINES.map((routine) => [routine.id, routine] as const))(
    '%s: words, picture and row agree',
    (_, routine) => {
      for (const { ask, answers } of scriptOf(routine)) {
        const asked = english.prompt(ask.prompt, USUAL_WORDS);
        for (const { outcome, given, reply } of answers) {
          const said = english.prompt(reply.say, USUAL_WORDS);
          const at = [ask.fact, given, said];
          expect([...at, /undefined|NaN|null/.test(said)]).toEqual([...at, false]);
          // Never called wrong; nothing is fixed, and where a child was silent nothing is said of an answer.
          expect([...at, /wrong|fix that/i.test(said)]).toEqual([...at, false]);
          if (outcome === 'right' || ask.checksItself || ask.want.by === 'pair' || ask.want.by === 'cut') continue;
          // What is asked once more is what was asked: whoever obeys it answers the same question.
          if (reply.say.say === 'check' || reply.say.say === 'look-together' || reply.say.say === 'look-again') {
            expect([...at, reply.say.question]).toEqual([...at, ask.prompt]);
            const last = /([^.!?]+[.!?])”$/.exec(said)?.[1]?.trim() ?? '';
            if (!OWN_QUESTION.includes(ask.prompt.say))
              expect([...at, asked.toLowerCase().includes(last.toLowerCase())]).toEqual([...at, true]);
          }
          if (outcome === 'none') expect([...at, reply.say.say]).toEqual([...at, 'look-together']);
          // No reply to a wrong answer tells the right one.
          const right = rightAnswer(ask);
          const told = reply.say.say === 'check' && right !== null && right !== given && !names(asked, right) && names(said, right); // prettier-ignore
          expect([...at, told]).toEqual([...at, false]);
          // Only help that changes what is seen or heard.
          for (const help of reply.helps) {
            const laid = helpPicture(ask, help);
            if (help === 'look-again') expect([...at, ask.flash]).toEqual([...at, true]);
            if (help === 'frame-under') expect([...at, laid === null || JSON.stringify(laid) === JSON.stringify(ask.picture)]).toEqual([...at, false]); // prettier-ignore
            const line = english.prompt(sayWith(ask, given, help), USUAL_WORDS);
            expect([...at, line, /undefined|NaN/.test(line)]).toEqual([...at, line, false]);
          }
        }
        // A row for every question that has a right answer, and its text can be read.
        if (ask.want.by !== 'talk' && ask.want.by !== 'cut' && ask.prompt.say !== 'child-sets') {
          expect(parseQuestion(ask.fact!).text).toBe(ask.fact);
          expect(english.fact(ask.fact!)).not.toMatch(/undefined/);
        }
      }
    },
  );

  it('is written down: docs/scripts.md is what ./vane script prints', () => {
    const written = readFileSync(join(import.meta.dirname, '../../../docs/scripts.md'), 'utf8');
    for (const routine of ROUTINES) expect(written).toContain(scriptInWords(routine.id, scriptOf(routine)));
  });
});
