import type { HandOffsets } from './hands';
import { STRATEGIES, type ChildTimes, type Strategy } from '../latency/times';

/** Changes whenever the same responses may give another reading: stored with readings, which are made again when it changes. */
export const MODEL_VERSION = 'field-8';

export const READING_WORDS = ['knows', 'works out', 'in between', 'counts', 'not yet', 'too few answers'] as const;
export type ReadingWord = (typeof READING_WORDS)[number];
/** True for a reading that settles nothing. */
export const isOpen = (word: ReadingWord): boolean => word === 'in between' || word === 'too few answers';

/** A reading as it is told: where time cannot tell, "in between" is told as what is likely, or as a question for the child. */
export const TOLD_WORDS = [
  'knows',
  'works out',
  'in between',
  'probably known',
  'ask the child',
  'counts',
  'not yet',
  'too few answers',
] as const;
export type ToldWord = (typeof TOLD_WORDS)[number];
export function toldAs({ reading, reason }: Pick<Reading, 'reading' | 'reason'>): ToldWord {
  if (reading !== 'in between') return reading;
  if (reason.code === 'probably-known') return 'probably known';
  return reason.code === 'ask-the-child' ? 'ask the child' : reading;
}

/** What a school's readings are made with. */
export interface ReadingSettings {
  /** Where the school stands: different days are days of its calendar. IANA name. */
  readonly timeZone: string;
}

export const DEFAULT_READING_SETTINGS: ReadingSettings = { timeZone: 'UTC' };

/** Thresholds of the words (docs/model.md, "Words"): the least probability for *knows*, the greatest for *counts* or *works out*, and the least answers and days. */
const KNOWS_FROM = 0.8;
const COUNTS_UP_TO = 0.2;
const LEAST_ANSWERS = 3;
const LEAST_DAYS = 2;

/** Reason of a reading, as data; the catalogue has the words. */
export type Reason =
  | { readonly code: 'quick-on-days' }
  | { readonly code: 'leads'; readonly strategy: Strategy }
  | { readonly code: 'mostly-wrong' }
  | { readonly code: 'fits-the-rest' }
  | { readonly code: 'needs-answers'; readonly more: number }
  | { readonly code: 'needs-another-day' }
  | { readonly code: 'in-between' }
  | { readonly code: 'probably-known' }
  | { readonly code: 'ask-the-child' };

/** The judgement on one child and one fact. */
export interface Reading {
  readonly child: string;
  readonly fact: string;
  readonly reading: ReadingWord;
  /** Probability that the child would retrieve the fact at least four times in five today. */
  readonly pAutomatic: number;
  /** E[share retrieved − share counted]: −1 counted … +1 known. */
  readonly lean: number;
  /** 0 = could be anything … 1 = settled, and by this fact's own answers. */
  readonly certainty: number;
  /** Unaided first-look answers that were judged. */
  readonly responses: number;
  readonly days: number;
  readonly reason: Reason;
}

/** What is known of a child's times, and from how many answers each hand time comes. */
export interface ChildEstimate {
  readonly child: string;
  readonly times: ChildTimes;
  /** When the hand was not as usual. */
  readonly hands: HandOffsets;
  readonly copies: Readonly<Partial<Record<string, number>>>;
  readonly counts: number;
  /** Half-life of what the child got right once, days. */
  readonly halfLifeDays: number;
}

/** What a reading is decided from. `shares` in the order of STRATEGIES. */
export interface Judged {
  readonly pAutomatic: number;
  /** The probability with the fact's own answers left out; asked for only where there are few of them. */
  readonly withoutOwn: () => number;
  readonly shares: readonly [number, number, number, number];
  readonly answers: number;
  readonly days: number;
  readonly wrong: number;
  /** False where time cannot tell counting from knowing (`timeTells`). */
  readonly timeTells: boolean;
  /** Strategies that adults' signs on the answers name. */
  readonly signed: readonly Strategy[];
}

/** Fewest answers, on LEAST_DAYS of the school's days, before a fact is called anything by its own answers: one proves nothing either way. */
const LEAST_FOR_A_WORD = 2;

/**
 * As sure as this, right answers to a fact need be neither as many nor on as many days: what the child answers to facts like it says the same by itself, and they speak for it too. On simulated classes such readings are right more often than those that wait
 * (docs/benchmarks.md).
 */
const SURE = 0.95;

function surely({ pAutomatic: p, withoutOwn }: Judged): 'known' | 'not known' | null {
  const isWithin = (least: number, most: number): boolean => {
    const rest = withoutOwn();
    return rest >= least && rest <= most;
  };
  if (p >= SURE) return isWithin(KNOWS_FROM, p) ? 'known' : null;
  if (p <= 1 - SURE) return isWithin(p, COUNTS_UP_TO) ? 'not known' : null;
  return null;
}

/** Where time cannot tell, from here on it is called probably known. */
const PROBABLY = 0.5;

/**
 * The reading of a fact and its reason (docs/model.md, "Words"). Where counting is over too soon for time to tell it from knowing, nothing is called counted or worked out unless a sign says so: the child is
 * to be asked.
 */
export function wordFor(judged: Judged): { reading: ReadingWord; reason: Reason } {
  const { pAutomatic, shares, answers, days, wrong } = judged;
  const waits = (reason: Reason) => ({ reading: 'too few answers' as const, reason });
  const needsAnswers: Reason = { code: 'needs-answers', more: LEAST_ANSWERS - answers };
  const isEnough = answers >= LEAST_ANSWERS && days >= LEAST_DAYS;
  const sure = isEnough || answers === 0 || wrong > 0 ? null : surely(judged);
  if (sure === null && answers < LEAST_FOR_A_WORD) return waits(needsAnswers);
  if (sure === null && days < LEAST_DAYS) return waits({ code: 'needs-another-day' });
  if (wrong * 2 > answers) return { reading: 'not yet', reason: { code: 'mostly-wrong' } };
  const rest = STRATEGIES.slice(1).map((strategy, i) => ({ strategy, share: shares[i + 1] ?? 0 }));
  const leader = rest.reduce((a, b) => (b.share > a.share ? b : a));
  /** Where time cannot tell, a sign that names the strategy can. */
  const isTold = (strategy: Strategy): boolean => judged.timeTells || judged.signed.includes(strategy);
  if (pAutomatic <= COUNTS_UP_TO && leader.share > shares[0]) {
    const reason: Reason = { code: 'leads', strategy: leader.strategy };
    if (leader.strategy === 'guess')
      return answers < LEAST_FOR_A_WORD ? waits(needsAnswers) : { reading: 'not yet', reason };
    if (isTold(leader.strategy)) return { reading: leader.strategy === 'derive' ? 'works out' : 'counts', reason };
  }
  if (sure === 'known') return { reading: 'knows', reason: { code: 'fits-the-rest' } };
  if (answers < LEAST_ANSWERS) return waits(needsAnswers);
  if (days < LEAST_DAYS) return waits({ code: 'needs-another-day' });
  const asked: Reason = { code: pAutomatic >= PROBABLY ? 'probably-known' : 'ask-the-child' };
  return pAutomatic >= KNOWS_FROM
    ? { reading: 'knows', reason: isTold('retrieve') ? { code: 'quick-on-days' } : asked }
    : { reading: 'in between', reason: judged.timeTells ? { code: 'in-between' } : asked };
}
