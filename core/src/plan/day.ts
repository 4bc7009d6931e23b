import {
  byTurn,
  minutesOf,
  plannedFor,
  QUESTIONS,
  sessionOf,
  type ChildNeed,
  type PlannedSitting,
  type PlanWish,
} from './classPlan';
import { apart } from './need';

export interface DayWish extends Omit<PlanWish, 'count'> {
  /** Adults who can hear children at the same time, and the minutes of each. */
  readonly adults: number;
  readonly minutes: number;
  /** Most children in a session. */
  readonly group: number;
  /** Most children to be heard; as many as fit when not given. */
  readonly most?: number;
  /** Who has worked with whom before in these days: new company comes first. */
  readonly met?: ReadonlyMap<string, ReadonlySet<string>>;
}

/** A session with its adult, from 0. */
export type AdultSession = PlannedSitting & { readonly adult: number };

export interface PlannedDay {
  /** What the minutes are for. */
  readonly sessions: readonly AdultSession[];
  /** What would come next if there were more of them: everybody else. */
  readonly later: readonly PlannedSitting[];
}

/** How far another child's need may be from the first child's in a group; where a child would otherwise be alone; and where that would leave no time for a child whose turn it is. */
const NEAR = 1;
const FAR = [3, 5];
/** Fewest questions that are worth a session. */
const LEAST_QUESTIONS = 4;

/** Questions for each child, so that one child at least fits into the minutes. */
function questionsIn(minutes: number): number {
  let count = QUESTIONS;
  while (count > LEAST_QUESTIONS && minutesOf(1, count) > minutes) count--;
  return count;
}

/** How many children an adult can hear in the minutes, in sessions of at most `group`. */
export function seatsIn(minutes: number, group: number, count = QUESTIONS): number {
  const whole = minutesOf(group, count);
  const full = Math.floor(minutes / whole);
  let more = 0;
  while (more < group && minutesOf(more + 1, count) <= minutes - full * whole) more++;
  return full * group + more;
}

/**
 * The sessions of a day, made for the minutes there are: as many children as fit, and nobody again before everybody who is there and has waited longer. Those who are heard work together where their
 * needs are the same or neighbours, at most `group`, and adults get equal work.
 * @param wish `children` are those who are there
 */
export function planDay(wish: DayWish): PlannedDay {
  const count = questionsIn(wish.minutes);
  const waiting = plannedFor({ ...wish, count });
  const room = wish.adults * seatsIn(wish.minutes, wish.group, count);
  for (let heard = Math.min(waiting.length, wish.most ?? Infinity, room); ; heard--) {
    for (const far of FAR) {
      const groups = grouped(waiting, heard, far, wish).map(sessionOf);
      const sessions = shared(groups, wish.adults);
      const fits = loads(sessions, wish.adults).every((load) => load <= wish.minutes);
      if (!fits) continue;
      const here = new Set(sessions.flatMap(({ children }) => children));
      const rest = waiting.filter((one) => !here.has(one));
      return { sessions, later: grouped(rest, rest.length, far, { ...wish, adults: 1 }).map(sessionOf) };
    }
  }
}

/**
 * The first so many of those who wait, in groups. Of those who have waited as long as the last of them it may be others, where that makes better company.
 * @param waiting whoever has waited longest first
 * @param far how far from a child company may be where nobody is near
 */
function grouped(
  waiting: readonly ChildNeed[],
  heard: number,
  far: number,
  { group, adults, met }: DayWish,
): ChildNeed[][] {
  const last = waiting[heard - 1];
  if (last === undefined) return [];
  /** Who has waited longer than the last of them is heard in any case; of the others so many. */
  const must = waiting.filter((one) => byTurn(one, last) < 0);
  const may = waiting.filter((one) => byTurn(one, last) === 0);
  let places = heard - must.length;
  let sessions = sessionsFor(heard, group, adults);
  const groups: ChildNeed[][] = [];
  const take = (from: ChildNeed[], one: ChildNeed): number => from.splice(from.indexOf(one), 1).length;
  while (must.length + places > 0) {
    const first = must[0] ?? may[0]!;
    const seats = Math.min(group, Math.ceil((must.length + places) / Math.max(1, sessions--)));
    const others = [...must, ...may].filter((one) => one !== first);
    const known = met?.get(first.child);
    const together = [first];
    if (must.includes(first)) take(must, first);
    else places -= take(may, first);
    for (const one of company(first, known ? newFirst(others, known) : others, far)) {
      if (together.length === seats) break;
      if (must.includes(one)) take(must, one);
      else if (places > 0) places -= take(may, one);
      else continue;
      together.push(one);
    }
    groups.push(together);
  }
  return groups;
}

/** Sessions that so many children make: equally many for every adult. */
function sessionsFor(children: number, group: number, adults: number): number {
  const least = Math.ceil(children / group);
  return Math.min(children, Math.ceil(least / adults) * adults);
}

const newFirst = (others: readonly ChildNeed[], known: ReadonlySet<string>): ChildNeed[] =>
  [...others].sort((a, b) => Number(known.has(a.child)) - Number(known.has(b.child)));

/** Who can work with a child, the nearest needs first, in the order given; where nobody is near, those further off. */
function company(first: ChildNeed, others: readonly ChildNeed[], most: number): ChildNeed[] {
  const near = others
    .map((one, i) => ({ one, i, far: apart(first.need, one.need) }))
    .sort((a, b) => a.far - b.far || a.i - b.i);
  const close = near.filter(({ far }) => far <= NEAR);
  return (close.length > 0 ? close : near.filter(({ far }) => far <= most)).map(({ one }) => one);
}

/** Sessions to adults, the longest first and each to whoever has least, in the order given. */
function shared(sessions: readonly PlannedSitting[], adults: number): AdultSession[] {
  const load = Array.from({ length: adults }, () => 0);
  const adultOf = new Map<PlannedSitting, number>();
  for (const one of [...sessions].sort((a, b) => b.minutes - a.minutes)) {
    const adult = load.indexOf(Math.min(...load));
    adultOf.set(one, adult);
    load[adult]! += one.minutes;
  }
  return sessions.map((one) => ({ ...one, adult: adultOf.get(one)! }));
}

const loads = (sessions: readonly AdultSession[], adults: number): number[] =>
  Array.from({ length: adults }, (_, adult) =>
    sessions.reduce((sum, one) => sum + (one.adult === adult ? one.minutes : 0), 0),
  );
