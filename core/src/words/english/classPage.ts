import type { Opener } from '../../plan/opener';
import type { Need } from '../../plan/need';
import type { HelpLevel, Place } from '../../plan/place';
import type { NextStep } from '../../plan/ready';
import type { WorthSeeing } from '../../plan/notable';
import type { Standing } from '../../plan/standing';
import type { Stuck } from '../../plan/stuck';
import { standings } from './readings';
import { fact } from './facts';
import { inLetters, listed } from './numbers';
import { title } from './plan';

/** How much help a child has, as the picture of the class names its rows. */
export const help: Readonly<Record<HelpLevel, string>> = {
  objects: 'with objects',
  picture: 'picture in view',
  remembered: 'picture remembered',
  symbols: 'numbers alone',
};

/** How many of those who were asked stand so with a fact: "still counted by ten and worked out so far by two of the 19 asked". */
export function openOf(asked: number, open: readonly { readonly standing: Standing }[]): string {
  const by = [...new Set(open.map(({ standing }) => standing))]
    .map((standing) => ({ standing, n: open.filter((one) => one.standing === standing).length }))
    .sort((a, b) => b.n - a.n)
    .map(({ standing, n }) => `${standings[standing]} by ${n}`);
  return `${listed(by)} of the ${asked} asked`;
}

/** The number that a child is working on, as the picture names its columns. */
export const column = ({ number, allKnown }: Pick<Place, 'number' | 'allKnown'>): string =>
  allKnown ? 'past ten' : number === null ? 'not found yet' : String(number);

/** A child's place in words: "working on six, picture remembered"; where what comes next is at another number, both. */
export function place(at: Place, own: Place = at): string {
  if (at.allKnown) return 'going on past ten';
  if (at.number === null) return 'no pairs asked yet';
  const next = `${inLetters(at.number)}, ${help[at.help]}`;
  if (own.number === at.number || (own.number === null && !own.allKnown)) return `working on ${next}`;
  return own.allKnown
    ? `going on past ten; next at ${next}`
    : `working on ${inLetters(own.number ?? 10)}; next at ${next}`;
}

/** What a child is ready to go on to, and whether the plan has it next: where it has something else first, what. */
export function nextStep(next: NextStep, planned: Need): string {
  switch (next.step) {
    case 'past ten':
      return 'past ten, a routine on the carpet: the plan stays within ten';
    case 'take-away':
    case 'missing part': {
      const step = `${next.step === 'take-away' ? 'take away from' : 'missing part of'} ${inLetters(next.whole)}`;
      const isNext = planned.need === 'undoing' && planned.whole === next.whole;
      return isNext ? `${step}, planned next` : `${step}, after “${title([planned])}”`;
    }
  }
}

/** What has not changed for a child: "The pairs of five: no change for three weeks (2 + 2 and 3 + 1)." */
export const noChange = ({ number, facts }: Stuck): string =>
  `The pairs of ${inLetters(number)}: no change for three weeks (${listed(facts.map((one) => fact(one)))}).`;

/** Why a fact is opened first on a child's page. */
export const notable: Readonly<Record<WorthSeeing['why'], (number: string) => string>> = {
  'of-the-number': (number) =>
    `Shown first: of the pairs of ${number}, the one with the most answers that is not known yet.`,
  'not-known': () => 'Shown first: the one with the most answers that is not known yet.',
  'most-answers': () => 'Shown first: the one with the most answers.',
};

/** What suits most of the class. */
export const opener = ({ need, children }: Opener, of: number): string =>
  `${title([need])}: it suits ${children.length} of ${of}.`;
