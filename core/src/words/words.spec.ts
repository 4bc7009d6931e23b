import { seeded } from '../random/random';
import { ROUTINES } from '../routines/index';
import { drawPicture } from '../routines/picture';
import { PLAIN_PROMPTS, type Prompt } from '../routines/prompt';
import { sittingAsks } from '../routines/index';
import { OPTIONS, USUAL_OPTIONS } from '../routines/options';
import { answersTo, saidAt } from '../routines/script';
import { ROUTINE_IDS } from '../routines/routineIds';
import type { RoutineWish } from '../routines/routine';
import { USUAL_WORDS, WORD_CHOICES, type Words } from '../routines/classWords';
import { catalogue, languageFor, LANGUAGES } from './catalogue';
import type { Evidence } from '../reading/evidence';
import { evidence } from './english/evidence';
import { english } from './english/index';
import { pseudoText } from './pseudo';

const { fact, factAloud, prompt: say } = english;

const WISH: RoutineWish = {
  layout: 'frame-fives',
  shows: 24,
  zeroToo: true,
  wholeFrom: 2,
  wholeTo: 10,
  warmUp: 'copies',
  options: USUAL_OPTIONS,
  things: 'lanterns',
  facts: [],
  sitters: 1,
  workingNumber: null,
  times: null,
};

/** Every prompt that a routine begins with, and every one that stands alone. */
const PROMPTS: readonly Prompt[] = [
  ...ROUTINES.flatMap((routine) =>
    sittingAsks(seeded(5), routine, WISH).flatMap((ask) => [
      ...saidAt({ ask, answers: answersTo(ask) }),
      ...(ask.note ? [ask.note] : []),
    ]),
  ),
  ...PLAIN_PROMPTS.map((plain): Prompt => ({ say: plain })),
];
/** Sentences with a verb that the class chooses. */
const SENTENCES = ['sentence', 'whole-sentence', 'picture-it', 'say-sentence', 'card-back', 'undo'];

describe('the class’s words', () => {
  // What counters are drawn as is not said: boats come into the harbour.
  it.each((Object.keys(WORD_CHOICES) as (keyof Words)[]).filter((word) => word !== 'things'))(
    'are used for "%s" in every prompt, and the usual word nowhere beside them',
    (word) => {
      const usual = USUAL_WORDS[word];
      // “The whole sentence” is not the class's whole.
      const say = (prompt: Prompt, words: Words): string =>
        english.prompt(prompt, words).replaceAll('the whole sentence', 'it all').replaceAll('full frame', 'it');
      const used = PROMPTS.filter(
        (prompt) =>
          new RegExp(`\\b${usual}s?\\b`).test(say(prompt, USUAL_WORDS)) &&
          (word !== 'equals' || SENTENCES.includes(prompt.say)),
      );
      expect(used.length).toBeGreaterThan(0);
      for (const other of WORD_CHOICES[word].slice(1)) {
        const words = { ...USUAL_WORDS, [word]: other };
        for (const prompt of used) {
          const said = say(prompt, words);
          expect(said).toMatch(new RegExp(`\\b${other}s?\\b`));
          expect(said).not.toMatch(new RegExp(`\\b${usual}s?\\b`));
        }
      }
    },
  );

  it('name no things: what counters are drawn as is seen', () => {
    for (const prompt of PROMPTS) expect(say(prompt, USUAL_WORDS)).not.toMatch(/lantern/);
  });
});

describe('facts', () => {
  it.each([
    ['3+5', '3 and 5 makes what?'],
    ['6-5', '6 take away 5 is what?'],
    ['4-?=1', '4 take away what leaves 1?'],
    ['?+3=8', 'What and 3 makes 8?'],
    ['8=3+?', '8 is 3 and what?'],
    ['bond:9:4', '9 is 4 and what?'],
  ])('%s is said "%s"', (text, aloud) => expect(factAloud(text, USUAL_WORDS)).toBe(aloud));

  it('are said with the class’s signs', () =>
    expect(factAloud('8-3', { ...USUAL_WORDS, minus: 'minus', equals: 'equal' })).toBe('8 minus 3 equals what?'));

  it.each([
    ['8+5', '8 + 5'],
    ['13-5', '13 − 5'],
    ['show:4:dice', '4 as dice dots'],
    ['show:4:scatter', '4 scattered'],
    ['show:7:frame-pairs', '7 on a frame by pairs'],
    ['ways:6', 'ways to make 6'],
    ['groups:4:2', '4 groups of 2'],
    ['more:4:6', '4 or 6: which is more?'],
    ['same:4:4', '4 and 4: the same or different?'],
    ['check:8-3=4', 'is it right: 8 − 3 = 4'],
    ['8+5:move', '8 + 5: how many to move'],
    ['left:5-1', '5 − 1: how many are left over'],
    ['top:7', '7 on a frame: how many in the top row'],
    ['side:4:3', '4 and 3: how many on the side of the 4'],
    ['groups:4:2:count', '4 groups of 2: how many groups'],
    ['ten:3+7+2', 'which two make ten: 3 + 7 + 2'],
    ['hides:4+5:8+5', 'which hides a ten: 4 + 5, 8 + 5'],
  ])('%s is written "%s"', (text, written) => expect(fact(text)).toBe(written));
});

describe('a picture', () => {
  it('has a name that gives no number away', () => {
    for (const routine of ROUTINES)
      for (const ask of routine.asks(seeded(2), WISH)) {
        const name = /aria-label="([^"]*)"/.exec(drawPicture(ask.picture, english.pictures).svg)?.[1];
        expect(name).toMatch(/^[a-z -]+$/);
      }
  });
});

describe('a catalogue', () => {
  it('names every routine and every value of every option once', () => {
    expect(Object.keys(english.routines).sort()).toEqual([...ROUTINE_IDS].sort());
    expect(ROUTINES.map((routine) => routine.id).sort()).toEqual([...ROUTINE_IDS].sort());
    const titles = Object.values(english.routines).map((routine) => routine.title);
    expect(new Set(titles).size).toBe(titles.length);
    for (const [name, option] of Object.entries(english.options))
      expect(Object.keys(option.values)).toEqual([...OPTIONS[name as keyof typeof OPTIONS]]);
  });

  it('is there for every language, and the first where another is wished', () => {
    expect(LANGUAGES.map((language) => catalogue(language).language)).toEqual([...LANGUAGES]);
    expect([languageFor('en-xa'), languageFor('fr;q=0.8'), languageFor(null)]).toEqual(['en-XA', 'en-GB', 'en-GB']);
  });

  it('says nothing that is glued wrongly, in either language', () => {
    for (const language of LANGUAGES)
      for (const prompt of PROMPTS)
        expect(catalogue(language).prompt(prompt, USUAL_WORDS)).not.toMatch(/undefined|NaN/);
  });

  it('in the pseudo-language is a third longer, and keeps numbers, signs and links', () => {
    const far = catalogue('en-XA');
    expect(far.prompt({ say: 'sentence', fact: '3+5' }, USUAL_WORDS)).toMatch(/^“3 áñd 5 mákéš whát\?”·+$/);
    expect(far.fact('8-3')).toBe('8 − 3');
    expect(far.letters.newPassword('https://vane.example/reset/abc').text).toContain('https://vane.example/reset/abc');
    expect(pseudoText('Import').length).toBe(8);
  });
});

describe('how many answers were right', () => {
  const said = (right: number, judged: number): string =>
    evidence(
      {
        ...{ fact: '2+5', judged, right, days: 2, usualMs: null, handMs: 900, handLatelyMs: null, handIsOwn: true },
        ...{ steps: 0, signs: { knew: 0, derived: 0, counted: 0, guessed: 0 } },
      } as Evidence,
      'Pelle',
    );
  it.each([
    [1, 1, 'The one answer was right.'],
    [0, 2, 'Neither answer was right, on two days.'],
    [2, 2, 'Both answers were right, on two days.'],
    [0, 3, 'None of the three answers was right, on two days.'],
    [1, 3, 'One of the three answers was right, on two days.'],
    [2, 3, 'Two of the three answers were right, on two days.'],
    [4, 4, 'All four answers were right, on two days.'],
  ])('%i of %i is a sentence of its own', (right, judged, words) => expect(said(right, judged)).toContain(words));
});
