import type { Aim } from './offer';
import type { Reading } from '../reading/reading';
import type { Support } from '../routines/support';
import { seeded, shuffled } from '../random/random';
import { nameOf, type Need } from './need';
import type { ProposedFact, ProposeWish } from './propose';
import { childSession, findingOut, type ChildSession } from './session';
import { mondayOf, schoolDays, type DayOf } from '../time/schoolDay';

export interface ChildNeed {
  readonly child: string;
  readonly need: Need;
  /** Whole days since the child was last asked; null = never. */
  readonly daysSince: number | null;
  /** They are counted from a day that is planned, and has not been. */
  readonly ahead?: boolean;
  /** On how many days of this calendar week the child was asked. */
  readonly daysThisWeek: number;
  readonly facts: readonly ProposedFact[];
  readonly behind?: ChildSession['behind'];
}

/** One planned session. */
export interface PlannedSitting {
  /** Who works together: the same while what they work on changes with their answers, so that what adults arranged for them stays. */
  readonly id: string;
  /** What it is for: the needs of its children, neighbours of one kind; the first is the first child's. */
  readonly needs: readonly Need[];
  readonly children: readonly ChildNeed[];
  /** Expected length, minutes. */
  readonly minutes: number;
}

/** A child of a plan: what is known, and when they were last asked, milliseconds since 1970; null = never. */
export interface PlannedChild extends Omit<ProposeWish, 'now' | 'timeZone' | 'aim' | 'count' | 'gainOf'> {
  readonly child: string;
  readonly lastAskedAt: number | null;
  /** The last time is one that is planned and has not been: of days ahead. */
  readonly ahead?: boolean;
}

/** What is kept of a child, as far as a plan wants it. */
interface KeptChild {
  readonly id: string;
  /** Milliseconds since 1970; null = never. */
  readonly lastAskedAt: number | null;
  readonly halfLifeDays: number | null;
  readonly support: readonly Support[];
}

/**
 * The children of a class as a plan wants them.
 * @param readings of all of them
 * @param asked when each was last asked each fact, milliseconds since 1970
 */
export function plannedChildren(
  children: readonly KeptChild[],
  readings: readonly Reading[],
  asked: readonly { readonly child: string; readonly fact: string; readonly at: number }[],
): PlannedChild[] {
  return children.map(({ id, lastAskedAt, halfLifeDays, support }) => ({
    child: id,
    readings: readings.filter((r) => r.child === id),
    lastAsked: new Map(asked.flatMap((a) => (a.child === id ? [[a.fact, a.at]] : []))),
    lastAskedAt,
    support,
    ...(halfLifeDays === null ? {} : { halfLife: halfLifeDays }),
  }));
}

export interface PlanWish {
  readonly children: readonly PlannedChild[];
  readonly now: number;
  /** The school's, whose days are meant. IANA name. */
  readonly timeZone: string;
  readonly aim: Aim;
  /** Needed to judge: what questions tell (`expectedGain`). */
  readonly gainOf?: ProposeWish['gainOf'];
  /** Questions for each child in a session; as many as usual when not given. */
  readonly count?: number;
}

/** Questions for each child in a session. */
export const QUESTIONS = 8;
const SECONDS_A_QUESTION = 11;
const SETTLING_SECONDS = 40;

export const minutesOf = (children: number, count: number): number =>
  Math.max(1, Math.round((children * (count * SECONDS_A_QUESTION) + SETTLING_SECONDS) / 60));

/**
 * What each child of a class is asked next and why: one need for each, the same in every place that names it, all through a day of the school. Whoever has waited longest comes first, who was never
 * asked before all, then whoever was asked on fewer days of this week; those who have waited equally long are mixed anew every day, the same all day, so that groups change without anybody deciding who is in which.
 */
export function plannedFor({ children, now, timeZone, aim, count = QUESTIONS, gainOf }: PlanWish): ChildNeed[] {
  const dayOf = schoolDays(timeZone);
  const today = dayOf(now);
  return shuffled(
    seeded(today),
    [...children].sort((a, b) => (a.child < b.child ? -1 : 1)),
  )
    .map((one): ChildNeed => {
      const wish = { ...one, now, timeZone, aim, count, ...(gainOf && { gainOf }) };
      const daysSince = one.lastAskedAt === null ? null : Math.max(0, today - dayOf(one.lastAskedAt));
      const daysThisWeek = weekDaysAsked(one.lastAsked, mondayOf(today), dayOf);
      const session = aim === 'practise' ? childSession(wish) : findingOut(wish);
      return { child: one.child, daysSince, ...(one.ahead && { ahead: true }), daysThisWeek, ...session };
    })
    .sort(byTurn);
}

/** Whose turn comes first: below 0 the first one's; 0 where nothing decides between them. */
export function byTurn(a: ChildNeed, b: ChildNeed): number {
  if (a.daysSince === b.daysSince) return a.daysThisWeek - b.daysThisWeek;
  return (b.daysSince ?? Infinity) - (a.daysSince ?? Infinity);
}

/** On how many days since a Monday a child was asked anything, by when each fact was asked last. */
export const weekDaysAsked = (lastAsked: ReadonlyMap<string, number>, monday: number, dayOf: DayOf): number =>
  new Set([...lastAsked.values()].map(dayOf).filter((d) => d >= monday)).size;

/** The different needs of children, in their order. */
export const needsOfAll = (children: readonly Pick<ChildNeed, 'need'>[]): Need[] => [
  ...new Map(children.map(({ need }) => [nameOf(need), need])).values(),
];

/** Children who work together, as one session. */
export function sessionOf(children: readonly ChildNeed[]): PlannedSitting {
  const questions = children.reduce((sum, one) => sum + one.facts.length, 0);
  return {
    id: children
      .map((one) => one.child)
      .sort()
      .join(' '),
    needs: needsOfAll(children),
    children,
    minutes: minutesOf(children.length, questions / Math.max(1, children.length)),
  };
}
