import { dayOfDate } from '../time/schoolDay';
import { isOpen, READING_WORDS, type ReadingWord } from './reading';

/** The words of one child's readings, by fact, as a week left them. */
export interface WeekWords {
  readonly child: string;
  /** The week's Monday, YYYY-MM-DD. */
  readonly week: string;
  readonly words: Readonly<Record<string, ReadingWord>>;
}

/** A week's last day, its Sunday, as days since 1970. */
export const endOfWeek = ({ week }: Pick<WeekWords, 'week'>): number => dayOfDate(week) + 6;

/**
 * What the record said of one child on a day: the last of their weeks that had ended by then.
 * @param weeks of one child, in any order
 * @param day days since 1970
 */
export function lastWeekBefore<W extends WeekWords>(weeks: readonly W[], day: number): W | null {
  return weeks.reduce<W | null>(
    (last, one) => (endOfWeek(one) <= day && (last === null || one.week > last.week) ? one : last),
    null,
  );
}

/** How many readings of each word a week left. */
export interface WeekCounts {
  readonly week: string;
  readonly counts: Readonly<Record<ReadingWord, number>>;
}

/**
 * Readings of each word at the end of every week, over all children and facts. A child who was not asked in a week keeps their readings; weeks in which nobody was asked are left out.
 *
 * @param weeks in any order; at most one a child and week
 */
export function countsByWeek(weeks: readonly WeekWords[]): WeekCounts[] {
  const latest = new Map<string, WeekWords['words']>();
  const byWeek = new Map<string, WeekWords[]>();
  for (const one of weeks) byWeek.set(one.week, [...(byWeek.get(one.week) ?? []), one]);
  return [...byWeek.keys()].sort().map((week) => {
    for (const { child, words } of byWeek.get(week) ?? []) latest.set(child, words);
    const counts = Object.fromEntries(READING_WORDS.map((word) => [word, 0])) as Record<ReadingWord, number>;
    for (const words of latest.values()) for (const word of Object.values(words)) counts[word]++;
    return { week, counts };
  });
}

/** A reading that a week changed. */
export interface ReadingChange {
  readonly fact: string;
  readonly week: string;
  readonly from: ReadingWord | null;
  readonly to: ReadingWord;
  /** What was known and is not read as known any more. */
  readonly lapse: boolean;
}

/**
 * What the weeks changed in one child's readings, newest first: from one word to another, what settles nothing counting as none. A first word is a change only when it
 * is "knows".
 *
 * @param weeks of one child, in any order
 */
export function changesOf(weeks: readonly WeekWords[]): ReadingChange[] {
  const last = new Map<string, ReadingWord>();
  const changes: ReadingChange[] = [];
  for (const { week, words } of [...weeks].sort((a, b) => (a.week < b.week ? -1 : 1))) {
    for (const [fact, to] of Object.entries(words)) {
      if (isOpen(to)) continue;
      const from = last.get(fact) ?? null;
      last.set(fact, to);
      if (from === to || (from === null && to !== 'knows')) continue;
      changes.push({ fact, week, from, to, lapse: from === 'knows' });
    }
  }
  return changes.reverse();
}
