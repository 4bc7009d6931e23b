import type { Reading } from '../reading/reading';
import type { Need } from '../plan/need';
import type { HelpLevel } from '../plan/place';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { strengths } from '../plan/strengths';
import { heading, line, small, type Block } from './text';

/** A line to write on. */
const RULE = '_'.repeat(72);

/** For a parents' evening: what a child does by themselves, what comes next, what helps at home. No times, no scores, no other child. */
export function evening({
  nickname,
  today,
  help,
  need,
  readings,
  door,
  support,
  words,
  say,
}: {
  readonly nickname: string;
  readonly today: string;
  /** The help that the need is asked with. */
  readonly help: HelpLevel;
  readonly need: Need;
  readonly readings: readonly Reading[];
  /** What the teacher wrote to say at the door, in their own words; '' = nothing: what Vane proposes there is told below. */
  readonly door: string;
  /** Adjustments for the child, where they were asked for. */
  readonly support: readonly string[];
  readonly words: Words;
  readonly say: Catalogue;
}): Block[] {
  const told = say.prints.evening;
  return [
    heading(told.title(nickname, today)),
    ...(door === '' ? [] : [line(door)]),
    heading(told.byThemselves),
    line(told.strengths(nickname, strengths(readings), words)),
    heading(told.now),
    line(told.working(nickname, need, words)),
    heading(told.next),
    line(told.inClass(need, help, words)),
    heading(told.atHome),
    line(told.home(need)),
    ...(support.length === 0 ? [] : [heading(told.support), { block: 'list' as const, items: support }]),
    heading(told.yours),
    line(RULE),
    line(RULE),
    small(told.limits),
  ];
}
