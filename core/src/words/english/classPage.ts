import type { Opener } from '../../plan/opener';
import type { HelpLevel, Place } from '../../plan/place';
import type { NextStep } from '../../plan/ready';
import type { WorthSeeing } from '../../plan/notable';
import type { TopicWord } from '../../plan/whoKnows';
import { told } from './readings';
import { inLetters } from './numbers';
import { title } from './plan';

/** How much help a child has, as the picture of the class names its rows. */
export const help: Readonly<Record<HelpLevel, string>> = {
  objects: 'with objects',
  picture: 'picture in view',
  remembered: 'picture remembered',
  symbols: 'numbers alone',
};

/** How a child stands with a fact, a step or a number. */
export const standing: Readonly<Record<TopicWord, string>> = { ...told, 'not asked': 'not asked' };

/** The number that a child is working on, as the picture names its columns. */
export const column = ({ number, allKnown }: Pick<Place, 'number' | 'allKnown'>): string =>
  allKnown ? 'past ten' : number === null ? 'not yet' : String(number);

/** A child's place in words: "working on six, picture remembered". */
export const place = (at: Place): string =>
  at.allKnown
    ? 'going on past ten'
    : at.number === null
      ? 'no pairs asked yet'
      : `working on ${inLetters(at.number)}, ${help[at.help]}`;

/** What a child is ready to go on to. */
export function nextStep(next: NextStep): string {
  switch (next.step) {
    case 'past ten':
      return 'past ten';
    case 'take-away':
      return 'to take-away';
    case 'missing part':
      return 'to missing part';
  }
}

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
