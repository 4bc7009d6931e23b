import { isAnswer } from './evidenceOf';
import { isOpen, type ReadingWord } from './reading';
import { endOfWeek, type WeekWords } from './overTime';
import type { Aid, Help, Response } from '../record/response';

/** What was done with some facts in one session, or what a week's end read of one of them: in order of time, and never as cause and effect. */
export type Happening =
  | {
      readonly what: 'asked';
      /** Days since 1970. */
      readonly day: number;
      readonly sitting: string;
      readonly answers: number;
      readonly right: number;
      /** Help that was there for some of the answers, and help given after a wrong one. */
      readonly aids: readonly Aid[];
      readonly helps: readonly Help[];
    }
  | {
      readonly what: 'read';
      readonly day: number;
      readonly fact: string;
      readonly from: ReadingWord | null;
      readonly to: ReadingWord;
      /** Whether the fact was answered in that week: else similar facts moved it. */
      readonly asked: boolean;
    };

const WEEK_DAYS = 7;

/**
 * Sessions and readings of some facts of one child, the newest first.
 * @param responses of one child
 * @param weeks of the same child, in any order
 * @param dayOf the school's day of a moment
 */
export function sequenceOf(
  facts: ReadonlySet<string>,
  responses: readonly Response[],
  weeks: readonly WeekWords[],
  dayOf: (atMs: number) => number,
): Happening[] {
  const bySitting = new Map<string, Response[]>();
  for (const r of responses)
    if (r.void === '' && facts.has(r.fact)) bySitting.set(r.sitting, [...(bySitting.get(r.sitting) ?? []), r]);
  const asked = [...bySitting].map(([sitting, own]): Happening => ({
    what: 'asked',
    day: dayOf(Math.min(...own.map((r) => r.shownAt))),
    sitting,
    answers: own.length,
    right: own.filter((r) => r.outcome === 'correct').length,
    aids: [...new Set(own.map((r) => r.aid))].filter((aid) => aid !== 'none'),
    helps: [...new Set(own.flatMap((r) => r.help))],
  }));
  const daysAsked = new Map(
    [...facts].map((fact) => [
      fact,
      responses.filter((r) => r.fact === fact && isAnswer(r)).map((r) => dayOf(r.shownAt)),
    ]),
  );
  const last = new Map<string, ReadingWord>();
  const read: Happening[] = [];
  for (const week of [...weeks].sort((a, b) => (a.week < b.week ? -1 : 1)))
    for (const fact of facts) {
      const to = week.words[fact];
      const from = last.get(fact) ?? null;
      if (to === undefined || to === from || (from === null && isOpen(to))) continue;
      last.set(fact, to);
      const day = endOfWeek(week);
      const asked = daysAsked.get(fact)!.some((at) => at <= day && at > day - WEEK_DAYS);
      read.push({ what: 'read', day, fact, from, to, asked });
    }
  // What a week's end read stands after the sessions of its last day.
  return [...asked, ...read].sort((a, b) => b.day - a.day || (a.what === b.what ? 0 : a.what === 'read' ? -1 : 1));
}
