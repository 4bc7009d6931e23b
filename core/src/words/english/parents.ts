import type { Need } from '../../plan/need';
import type { HelpLevel, Place } from '../../plan/place';
import type { Strengths } from '../../plan/strengths';
import type { Words } from '../../routines/classWords';
import { fact } from './facts';
import { inLetters, listed } from './numbers';

const MOST_FACTS = 3;

/** What a child does without counting, in the middle of a sentence; empty where nothing is known yet. */
function without({ wholes, facts, seen }: Strengths, words: Words): string {
  const pairs =
    wholes.length > 0
      ? [`the ${words.pair}s of ${listed(wholes.map(inLetters))}`]
      : facts.length > 0
        ? [listed(facts.slice(0, MOST_FACTS).map(fact))]
        : [];
  return [...pairs, ...(seen === null ? [] : [`amounts up to ${inLetters(seen)} at a glance`])].join(', and ');
}

/** What a child is learning, as the plan has it. */
function learning(need: Need, words: Words): string {
  switch (need.need) {
    case 'begin':
    case 'finding out':
    case 'seeing':
      return 'seeing amounts without counting';
    case 'anchor':
      return `how many more make ${inLetters(need.to)}`;
    case 'pairs':
      return `the ${words.pair}s of ${inLetters(need.whole)}: the ways to make it from two ${words.part}s`;
    case 'undoing':
      return `to take some away from ${inLetters(need.whole)}, and to find a missing ${words.part} of it`;
  }
}

/** A game for a need. */
function home(need: Need): string {
  switch (need.need) {
    case 'begin':
    case 'finding out':
    case 'seeing':
      return 'At home, show a few fingers all at once, hide them, and ask how many there were.';
    case 'anchor':
      return `At home, show some fingers and ask how many more make ${inLetters(need.to)}.`;
    case 'pairs':
      return `At home, put out ${inLetters(need.whole)} small things, cover some with a cup, and ask how many are under it.`;
    case 'undoing':
      return `At home, put out ${inLetters(need.whole)} small things, take some away together, and ask how many are left before looking.`;
  }
}

/** Two sentences that a teacher can say at the door: what the child does by themselves and is learning, and what to play at home. */
export function door(nickname: string, known: Strengths, need: Need, words: Words): string {
  const can = without(known, words);
  const first =
    can === ''
      ? `${nickname} is learning ${learning(need, words)}.`
      : `${nickname} knows ${can} without counting, and is learning ${learning(need, words)}.`;
  return `${first} ${home(need)}`;
}

const WITH: Readonly<Record<HelpLevel, string>> = {
  objects: 'with things to hold',
  picture: 'with a picture to look at',
  remembered: 'from a picture that they remember',
  symbols: 'with numbers alone',
};

/** For a parents' evening. */
export const evening = {
  title: (nickname: string, today: string) => `${nickname}: for parents, ${today}`,
  byThemselves: 'What comes by itself',
  strengths: (nickname: string, known: Strengths, words: Words) => {
    const can = without(known, words);
    return can === ''
      ? `${nickname} is just starting to look at how small numbers are made.`
      : `${nickname} knows ${can} without counting.`;
  },
  now: 'What we are learning now',
  working: (nickname: string, need: Need, words: Words) => `${nickname} is learning ${learning(need, words)}.`,
  next: 'What we do in class',
  inClass: (need: Need, help: HelpLevel, words: Words) =>
    ({
      begin: `We look at small amounts on a ${words.frame} with five boxes, a few minutes at a time.`,
      'finding out': 'We find out what comes by itself already, a few questions at a time.',
      seeing: 'We look at amounts for a moment and say how many there were, and how we saw them.',
      anchor:
        need.need === 'anchor' ? `We ask how many more make ${inLetters(need.to)}, on frames and on fingers.` : '',
      pairs: `We find the two ${words.part}s of a ${words.whole} in many ways, ${WITH[help]}.`,
      undoing: `We take some away or hide a ${words.part}, and say how many are left.`,
    })[need.need],
  atHome: 'What helps at home',
  home,
  support: 'What we do differently',
  yours: 'What you see at home',
  limits:
    'A few minutes when you both feel like it help more than a long time. Counting is welcome: it is how knowing begins. Nobody is compared with anybody. Small things are not for children who put them into their mouths.',
};

/** For the next teacher of a whole class. */
export const classHandOver = {
  title: (className: string) => `Class hand-over: ${className}`,
  stands: (today: string) =>
    `The record on ${today}, by name. The working number is the number whose pairs a child is learning now; it is no mark, and no order of children.`,
  head: ['Child', 'Working number', 'Known without counting', 'Next', 'Last asked'],
  number: ({ number, allKnown }: Place) => (allKnown ? 'past ten' : number === null ? 'not found yet' : String(number)),
  knows: (known: Strengths, words: Words) => without(known, words) || '–',
  never: 'never',
  support: 'Adjustments',
};
