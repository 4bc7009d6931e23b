import type { Reading } from '../reading/reading';
import { isAt, isShort, type Need } from './need';
import { FIRST_NUMBER, offerOf, type Offered } from './offer';
import { workingNumber } from './workingNumber';

/** How much help a child has with the facts they are learning, most first: the order in which every step of the path is gone. */
export const HELP_LEVELS = ['objects', 'picture', 'remembered', 'symbols'] as const;
export type HelpLevel = (typeof HELP_LEVELS)[number];

/**
 * From this mean probability on the facts of a need are asked in symbols alone, and below that one with the picture in view. A mean of a half moves the working number on: thirds
 * of what lies below it.
 */
const SYMBOLS_FROM = 1 / 3;
const PICTURE_BELOW = 1 / 6;

/**
 * The help that a need is asked with: with objects while none of its facts has been asked, then by the mean probability of its facts. Facts that time cannot tell
 * from counting are left out where there are others.
 */
export const helpAt = (offered: readonly Offered[], need: Need): HelpLevel =>
  helpOf(offered.filter(({ fact }) => isAt(need, fact)));

function helpOf(all: readonly Offered[]): HelpLevel {
  if (!all.some(({ reading }) => reading !== null && reading.responses > 0)) return 'objects';
  const told = all.filter(({ fact }) => !isShort(fact));
  const own = told.length > 0 ? told : all;
  const mean = own.reduce((sum, { p }) => sum + p, 0) / own.length;
  if (mean >= SYMBOLS_FROM) return 'symbols';
  return mean < PICTURE_BELOW ? 'picture' : 'remembered';
}

/** The help with a single question: as the facts of its kind and number are asked with. */
export function helpWith(offered: readonly Offered[], fact: string): HelpLevel {
  const one = offered.find((it) => it.fact === fact);
  if (one === undefined || one.step === 'seeing') return 'symbols';
  return helpOf(offered.filter(({ step, whole }) => step === one.step && whole === one.whole));
}

/** A child's place on the path: the number whose pairs they are learning, and the help they have with them. */
export interface Place {
  /** null = no pair was asked yet, or the pairs of every number are known. */
  readonly number: number | null;
  readonly allKnown: boolean;
  readonly help: HelpLevel;
}

/** @param readings of one child */
export function placeOf(readings: readonly Reading[]): Place {
  const { number, allKnown } = workingNumber(readings);
  if (number === null && !allKnown) return { number, allKnown, help: 'objects' };
  const whole = number ?? 10;
  return { number, allKnown, help: helpAt(offerOf(readings, 'practise'), { need: 'pairs', whole }) };
}

/** Where a child stands with what comes next for them: at the number of the need, with the help that it is asked with; at their own number where the need has none. */
export function placeOfNeed(readings: readonly Reading[], need: Need): Place {
  const own = placeOf(readings);
  const number = need.need === 'anchor' ? need.to : 'whole' in need ? need.whole : null;
  return number === null ? own : { number, allKnown: false, help: helpAt(offerOf(readings, 'practise'), need) };
}

/** The number to plan with: the working number, the last one where all are known, the first where none was asked. */
export const numberToPlan = ({ number, allKnown }: Pick<Place, 'number' | 'allKnown'>): number =>
  number ?? (allKnown ? 10 : FIRST_NUMBER);
