import type { Aim } from './offer';
import type { Reading } from '../reading/reading';
import type { Support } from '../routines/support';
import { seeded, shuffled } from '../random/random';
import { nameOf, type Need } from './need';
import { proposeFacts, type ProposedFact, type ProposeWish } from './propose';
import { childSession, sessionsOf, type ChildSession } from './session';
import { schoolDays } from '../time/schoolDay';

export interface ChildNeed {
  readonly child: string;
  readonly need: Need;
  /** Whole days since the child was last asked; null = never. */
  readonly daysSince: number | null;
  readonly facts: readonly ProposedFact[];
  readonly behind?: ChildSession['behind'];
  /** Other needs that will do, where the child would be alone with the best. */
  readonly others?: readonly Need[];
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

interface PlanWish {
  readonly children: readonly PlannedChild[];
  readonly now: number;
  /** The school's, whose days are meant. IANA name. */
  readonly timeZone: string;
  readonly aim: Aim;
  /** Needed to judge: what questions tell (`expectedGain`). */
  readonly gainOf?: ProposeWish['gainOf'];
  /** Questions for each child in a session. */
  readonly count: number;
}

/** Usual size of a group. */
const GROUP = 4;
/** How far the number of another child's need may be from the first child's in a group; and where a child would otherwise be alone. */
const NEAR = 1;
const FAR = 3;
/** Questions for each child in a session. */
export const QUESTIONS = 8;
const SECONDS_A_QUESTION = 11;
const SETTLING_SECONDS = 40;

export const minutesOf = (children: number, count: number): number =>
  Math.max(1, Math.round((children * (count * SECONDS_A_QUESTION) + SETTLING_SECONDS) / 60));

/** To find out what is known: facts from anywhere near the child's number; a child who was never asked begins as with any aim. */
function findingOut(wish: ProposeWish): ChildSession {
  if (!wish.readings.some((r) => r.responses > 0)) return childSession({ ...wish, aim: 'practise' });
  return { need: { need: 'finding out' }, others: [], facts: proposeFacts(wish) };
}

/** How far apart two needs are: 0 the same, within one kind the difference of the numbers; infinite where they do not go together. */
export function apart(a: Need, b: Need): number {
  if (nameOf(a) === nameOf(b)) return 0;
  if (a.need !== b.need || a.need === 'anchor') return Infinity;
  return 'whole' in a && 'whole' in b ? Math.abs(a.whole - b.whole) : Infinity;
}

/**
 * The sessions worth having next: whoever has waited longest comes first, so that nobody is left out. Children with the same or a neighbouring need work together, at
 * most four; each is asked at their own number. Groups are formed anew each day: nobody belongs to one.
 */
export function planClass({ children, now, timeZone, aim, count, gainOf }: PlanWish): PlannedSitting[] {
  const dayOf = schoolDays(timeZone);
  // Children who have waited equally long are mixed anew every day, the same all day: groups change without anybody deciding who is in which.
  const mixed = shuffled(
    seeded(dayOf(now)),
    [...children].sort((a, b) => (a.child < b.child ? -1 : 1)),
  );
  const sessions = new Map<string, ReturnType<typeof sessionsOf>>();
  const left = mixed
    .map((child): ChildNeed => {
      const wish = { ...child, now, timeZone, aim, count, ...(gainOf && { gainOf }) };
      const own = aim === 'practise' ? sessionsOf(wish) : undefined;
      if (own) sessions.set(child.child, own);
      const session = own ? own() : findingOut(wish);
      const daysSince = child.lastAskedAt === null ? null : Math.max(0, dayOf(now) - dayOf(child.lastAskedAt));
      return { child: child.child, daysSince, ...session };
    })
    .sort((a, b) => (a.daysSince === b.daysSince ? 0 : (b.daysSince ?? Infinity) - (a.daysSince ?? Infinity)));
  // Another need than the best is taken only to practise.
  const again = (one: ChildNeed, need: Need): ChildNeed => ({ ...one, ...sessions.get(one.child)!(need) });
  const sittings: PlannedSitting[] = [];
  while (left.length > 0) {
    const together = company(left[0]!, left.slice(1), GROUP, again);
    const taken = new Set(together.map(({ child }) => child));
    left.splice(0, left.length, ...left.filter(({ child }) => !taken.has(child)));
    sittings.push(sessionOf(together, count));
  }
  return sittings;
}

/**
 * A child and those who work with them: the nearest needs first, in the order given. Where nobody is near, the child takes another need that will do and for which
 * there is company; else one joins whose number lies further off.
 * @param seats most children together
 * @param again the child's session for another need
 */
export function company(
  first: ChildNeed,
  others: readonly ChildNeed[],
  seats: number,
  again: (child: ChildNeed, need: Need) => ChildNeed,
): ChildNeed[] {
  const alone = !others.some(({ need }) => apart(first.need, need) <= NEAR);
  const shared = alone && seats > 1 && first.others?.find((one) => others.some(({ need }) => apart(one, need) <= NEAR));
  if (shared) return company({ ...again(first, shared), others: [] }, others, seats, again);
  const near = others
    .map((one, i) => ({ one, i, far: apart(first.need, one.need) }))
    .sort((a, b) => a.far - b.far || a.i - b.i);
  const close = near.filter(({ far }) => far <= NEAR);
  const found = close.length > 0 ? close : near.filter(({ far }) => far <= FAR).slice(0, 1);
  return [first, ...found.slice(0, seats - 1).map(({ one }) => one)];
}

/** The different needs of children, in their order. */
export const needsOfAll = (children: readonly Pick<ChildNeed, 'need'>[]): Need[] => [
  ...new Map(children.map(({ need }) => [nameOf(need), need])).values(),
];

/** Children who work together, as one session. */
export function sessionOf(children: readonly ChildNeed[], count: number): PlannedSitting {
  const needs = needsOfAll(children);
  return {
    id: children
      .map((one) => one.child)
      .sort()
      .join(' '),
    needs,
    children,
    minutes: minutesOf(
      children.length,
      children.length === 0 ? count : children.reduce((sum, one) => sum + one.facts.length, 0) / children.length,
    ),
  };
}
