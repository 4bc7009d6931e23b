import { STRATEGIES, type ChildTimes, type Strategy } from '../latency/times';

/** Changes whenever the same responses may give another reading: readings are stored with it and made again when it moves. */
export const MODEL_VERSION = 'field-4';

export const READING_WORDS = ['knows', 'works out', 'counts', 'not yet', 'too few answers'] as const;
export type ReadingWord = (typeof READING_WORDS)[number];

/** When a fact may be called known. Shown to the teacher; the defaults are READING.md's. */
export interface ReadingSettings {
  /** From this probability on a fact may be called known. */
  readonly knowsFrom: number;
  /** Up to this probability a fact may be called counted or worked out. */
  readonly countsUpTo: number;
  readonly leastAnswers: number;
  readonly leastDays: number;
  /** Where the school stands: different days are days of its calendar. IANA name. */
  readonly timeZone: string;
}

export const DEFAULT_READING_SETTINGS: ReadingSettings = {
  knowsFrom: 0.8,
  countsUpTo: 0.2,
  leastAnswers: 3,
  leastDays: 2,
  timeZone: 'UTC',
};

/** Why a reading is what it is, as data; words are added at the edge. */
export type Reason =
  | { readonly code: 'quick-on-days' }
  | { readonly code: 'leads'; readonly strategy: Strategy }
  | { readonly code: 'mostly-wrong' }
  | { readonly code: 'needs-answers'; readonly more: number }
  | { readonly code: 'needs-another-day' }
  | { readonly code: 'in-between' }
  | { readonly code: 'time-cannot-tell' };

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
  readonly copies: Readonly<Partial<Record<string, number>>>;
  readonly counts: number;
  /** How long it takes the child to forget half of what it got right once. */
  readonly halfLifeDays: number;
}

/** What is needed to put a word to a fact. `shares` in the order of STRATEGIES. */
export interface Judged {
  readonly pAutomatic: number;
  readonly shares: readonly [number, number, number, number];
  readonly answers: number;
  readonly days: number;
  readonly wrong: number;
  readonly tooShort: boolean;
  /** An adult's sign stands on at least one of the answers. */
  readonly signed: boolean;
}

/** Fewest answers before a fact may be called counted, worked out or not yet: one answer proves nothing either way. */
const LEAST_TO_DOUBT = 2;

/** The word for a fact and why (READING.md, "Question answered"). */
export function wordFor(judged: Judged, settings: ReadingSettings): { reading: ReadingWord; reason: Reason } {
  const { pAutomatic, shares, answers, days, wrong } = judged;
  const waits = (reason: Reason) => ({ reading: 'too few answers' as const, reason });
  if (answers < LEAST_TO_DOUBT) return waits({ code: 'needs-answers', more: settings.leastAnswers - answers });
  const rest = STRATEGIES.slice(1).map((strategy, i) => ({ strategy, share: shares[i + 1] ?? 0 }));
  const leader = rest.reduce((a, b) => (b.share > a.share ? b : a));
  if (wrong * 2 > answers) return { reading: 'not yet', reason: { code: 'mostly-wrong' } };
  if (pAutomatic >= settings.knowsFrom) {
    if (answers < settings.leastAnswers) return waits({ code: 'needs-answers', more: settings.leastAnswers - answers });
    if (days < settings.leastDays) return waits({ code: 'needs-another-day' });
    return {
      reading: 'knows',
      reason: judged.tooShort && !judged.signed ? { code: 'time-cannot-tell' } : { code: 'quick-on-days' },
    };
  }
  if (pAutomatic <= settings.countsUpTo && leader.share > shares[0]) {
    if (leader.strategy === 'guess') return { reading: 'not yet', reason: { code: 'leads', strategy: 'guess' } };
    return {
      reading: leader.strategy === 'derive' ? 'works out' : 'counts',
      reason: { code: 'leads', strategy: leader.strategy },
    };
  }
  return waits(judged.tooShort ? { code: 'time-cannot-tell' } : { code: 'in-between' });
}
