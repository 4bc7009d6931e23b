import type { ChildView, ChildWeek, ClassReadings } from '@vane/contract';
import {
  anotherWay,
  grouped,
  dayOfDate,
  HELP_LEVELS,
  lastWeekBefore,
  mondayOf,
  nameOf,
  placeOf,
  placeOfNeed,
  readyFor,
  schoolDays,
  stuckOn,
  type ChildNeed,
  type HelpLevel,
  type NextStep,
  type Place,
  type RoutineId,
  type Stuck,
} from '@vane/core';

/** Where a child was when a week ended. */
export interface PlaceThen {
  readonly number: number | null;
  readonly help: HelpLevel;
}

/** A child of the class as its picture shows them. */
export interface ClassChild {
  readonly id: string;
  readonly nickname: string;
  readonly place: Place;
  /** Where they stand in the picture: with what the plan has for them next. */
  readonly at: Place;
  /** null = there is no record that old. */
  readonly then: PlaceThen | null;
  /** What the plan has for them next, with its reasons; equal needs have equal names. */
  readonly planned: ChildNeed;
  readonly needName: string;
  readonly heardThisWeek: boolean;
  readonly stuck: Stuck | null;
  /** A routine that suits what is next and was not used with them lately. */
  readonly anotherWay: RoutineId | null;
  readonly ready: NextStep | null;
  /** What a version of the judgement before this one said of that week, where it said something else. */
  readonly versionMoved: { readonly version: string; readonly from: number | null } | null;
}

interface ClassMoment {
  readonly now: number;
  readonly timeZone: string;
  /** The day with which today is compared, YYYY-MM-DD. */
  readonly since: string;
}

export function classChildren(
  children: readonly ChildView[],
  readings: ClassReadings['readings'],
  needs: readonly ChildNeed[],
  weeks: readonly ChildWeek[],
  { now, timeZone, since }: ClassMoment,
): ClassChild[] {
  const dayOf = schoolDays(timeZone);
  const today = dayOf(now);
  const planned = new Map(needs.map((one) => [one.child, one]));
  const ofChild = ({ child }: { readonly child: string }): string => child;
  const [readingsOf, weeksOf] = [grouped(readings, ofChild), grouped(weeks, ofChild)];
  return children.flatMap(({ id, nickname, lastAskedAt, routinesUsed }): ClassChild[] => {
    const own = readingsOf.get(id) ?? [];
    const past = weeksOf.get(id) ?? [];
    const then = lastWeekBefore(past, dayOfDate(since));
    const next = planned.get(id);
    if (!next) return [];
    const stuck = stuckOn(past, own, today);
    const older = then?.older ?? null;
    return [
      {
        id,
        nickname,
        place: placeOf(own),
        at: placeOfNeed(own, next.need),
        then: then && { number: then.workingNumber, help: then.help },
        planned: next,
        needName: nameOf(next.need),
        heardThisWeek: lastAskedAt !== null && dayOf(Date.parse(lastAskedAt)) >= mondayOf(today),
        stuck,
        anotherWay: stuck && anotherWay(next.need, routinesUsed),
        // Who is stuck has enough to do where they are.
        ready: stuck === null ? readyFor(own) : null,
        versionMoved:
          older !== null && older.workingNumber !== then?.workingNumber
            ? { version: older.modelVersion, from: older.workingNumber }
            : null,
      },
    ];
  });
}

/** A place of the picture: a number, and how much help. */
interface Cell {
  readonly help: HelpLevel;
  readonly column: string;
  /** Children with the same need stand together; a need's children by name. */
  readonly pools: readonly { readonly needName: string; readonly children: readonly ClassChild[] }[];
}
interface Column {
  /** 'none' = no pair asked yet; 'all' = all pairs to ten are known. */
  readonly column: string;
  readonly place: Pick<Place, 'number' | 'allKnown'>;
  /** Children that stand beside each other in its fullest cell: how wide it has to be. */
  readonly weight: number;
}

const columnOf = ({ number, allKnown }: Pick<Place, 'number' | 'allKnown'>): string =>
  allKnown ? 'all' : number === null ? 'none' : String(number);
/** Names and captions below each other in a cell before it becomes wider. */
const DEEP = 3;

/** Names, and a caption for every pool. */
const lengthOf = ({ pools }: Cell): number => pools.reduce((sum, { children }) => sum + children.length + 1, 0);

/** The picture's columns, from the smallest number worked on to the largest without gaps, and its rows, least help on top. */
export function pictureOf(children: readonly ClassChild[]): {
  columns: Column[];
  rows: { help: HelpLevel; cells: Cell[] }[];
} {
  const numbers = children.flatMap(({ at }) => (at.number === null ? [] : [at.number]));
  const from = Math.min(...numbers);
  const places: Pick<Place, 'number' | 'allKnown'>[] = [
    ...(children.some(({ at }) => columnOf(at) === 'none') ? [{ number: null, allKnown: false }] : []),
    ...(numbers.length === 0
      ? []
      : Array.from({ length: Math.max(...numbers) - from + 1 }, (_, i) => ({ number: from + i, allKnown: false }))),
    ...(children.some(({ at }) => at.allKnown) ? [{ number: null, allKnown: true }] : []),
  ];
  const standing = (column: string, help: HelpLevel): ClassChild[] =>
    children.filter(({ at }) => columnOf(at) === column && at.help === help);
  const rows = [...HELP_LEVELS].reverse().map((help) => ({
    help,
    cells: places.map((place): Cell => {
      const here = standing(columnOf(place), help);
      const needs = [...new Set(here.map(({ needName }) => needName))].sort();
      return {
        help,
        column: columnOf(place),
        pools: needs.map((needName) => ({ needName, children: here.filter((one) => one.needName === needName) })),
      };
    }),
  }));
  return {
    columns: places.map((place, i) => ({
      column: columnOf(place),
      place,
      weight: Math.max(...rows.map(({ cells }) => Math.ceil(lengthOf(cells[i]!) / DEEP))),
    })),
    rows,
  };
}

/** Where a child has come from, as steps across (larger numbers) and up (less help); null = they have not moved, or nothing is known of then. */
export function movement({
  place,
  then,
}: Pick<ClassChild, 'place' | 'then'>): { readonly across: number; readonly up: number } | null {
  const before = then?.number ?? null;
  if (then === null || before === null) return null;
  const across = (place.allKnown ? 11 : (place.number ?? before)) - before;
  const up = HELP_LEVELS.indexOf(place.help) - HELP_LEVELS.indexOf(then.help);
  // With a new number the help begins anew: that is no way back.
  return across === 0 && up === 0 ? null : { across, up: across === 0 ? up : 0 };
}
