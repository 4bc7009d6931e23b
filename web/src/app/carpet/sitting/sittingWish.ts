import type { CarpetSettings, ChildView } from '@vane/contract';
import {
  dealTurns,
  handSeconds,
  optionsFor,
  applySupport,
  routineOf,
  sittingAsks,
  sparing,
  type Answered,
  type PlannedAsk,
  type Random,
  type RoutineWish,
  type Turn,
  type WarmUp,
} from '@vane/core';
import type { Follow, Sitter } from './turns';

/** What a session is run with. */
export interface SittingWish {
  readonly classId: string;
  readonly settings: CarpetSettings;
  /** Who sits, in the order of the turn line. With the whole class answering together it is one sitter for all. */
  readonly children: readonly Sitter[];
  /** Turns (child and question) in order; at least one. */
  readonly turns: readonly Turn[];
  readonly follow: Follow;
  /** Everybody who may be meant: for a slip of who sits here, and for chips while the class answers together. */
  readonly classmates: readonly Sitter[];
  /** The class answers together: nothing of that is evidence, and it is not recorded. */
  readonly choral: boolean;
  /** How many questions there will be follows from the answers. */
  readonly open: boolean;
  /** All work on one thing, in turn: what follows depends on what everybody said. */
  readonly shared: boolean;
}

/** What an adult has chosen to begin with. */
export interface Chosen {
  readonly children: readonly ChildView[];
  readonly settings: CarpetSettings;
  /** The whole class answers together. */
  readonly choral: boolean;
  readonly warmUpOf: (child: ChildView) => WarmUp;
}

/** What a routine draws a child's questions from: the class's settings, the child's own number where that is wished, and their own times. */
function routineWish(
  child: ChildView,
  settings: CarpetSettings,
  warmUp: WarmUp,
  sitters: number,
  facts: readonly PlannedAsk[] = [],
): RoutineWish {
  const own = settings.numbers === 'own' ? child.workingNumber : null;
  const times = child.times && {
    handSeconds: handSeconds(child.times, applySupport(settings, child.support).answerMode),
    paceSeconds: child.times.pace,
  };
  return {
    ...settings,
    wholeFrom: own ?? settings.wholeFrom,
    wholeTo: own ?? settings.wholeTo,
    things: settings.words.things,
    facts,
    sitters,
    workingNumber: child.workingNumber,
    times,
    warmUp,
  };
}

/**
 * The questions of a sitting, as it was chosen.
 * @param classmates everybody who may be meant
 * @param factsOf facts that a plan proposes, by child
 * @param spared facts that are asked next, and not now where anything else can be
 */
export function sittingWish(
  { children, settings: chosen, choral, warmUpOf }: Chosen,
  {
    classId,
    classmates,
    factsOf,
    spared = [],
  }: Pick<SittingWish, 'classId' | 'classmates'> & {
    readonly factsOf?: ReadonlyMap<string, readonly PlannedAsk[]> | undefined;
    readonly spared?: readonly string[];
  },
  random: Random,
): SittingWish {
  const routine = routineOf(chosen.routine);
  const settings = { ...chosen, options: optionsFor(routine, chosen.options) };
  const wishes = new Map(
    children.map((child) => [
      child.id,
      routineWish(child, settings, choral ? 'none' : warmUpOf(child), children.length, factsOf?.get(child.id)),
    ]),
  );
  const shared = routine.shared === true && !choral;
  const everyone = { id: '', nickname: $localize`Everybody` };
  // What all do together is at the numbers that were set, or, where each has an own, at that of the first.
  const common = routineWish(
    children[0]!,
    shared ? settings : { ...settings, numbers: 'same' },
    'none',
    choral ? 1 : children.length,
  );
  // While others wait, one show of a warm-up for each child: the rest comes on other days.
  const least = children.length > 1;
  const asksOf = (wish: RoutineWish) =>
    sparing(sittingAsks(random, routine, wish), spared).filter(
      ({ warmUp }, i, all) => !least || !warmUp || !all[i - 1]?.warmUp,
    );
  return {
    classId,
    settings,
    choral,
    children: choral ? [everyone] : children,
    classmates,
    // Each child on questions of their own, in turn; or all together on the same; or each in turn on one thing.
    turns: dealTurns(
      choral || shared
        ? [{ child: (choral ? everyone : children[0]!).id, asks: asksOf(common) }]
        : children.map((child) => ({ child: child.id, asks: asksOf(wishes.get(child.id) ?? common) })),
    ),
    follow: (child: string, soFar: readonly Answered[]) =>
      routine.follow?.(
        soFar.filter((a) => !a.ask.warmUp),
        random,
        shared ? common : (wishes.get(child) ?? common),
      ) ?? [],
    shared,
    open: routine.follow !== undefined,
  };
}
