import type { Need } from '../plan/need';
import type { Place } from '../plan/place';
import type { Reading } from '../reading/reading';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { strengths } from '../plan/strengths';
import { heading, line, small, type Block } from './text';

/** A child as the next teacher finds them. */
interface HandedOver {
  readonly nickname: string;
  readonly place: Place;
  readonly need: Need;
  readonly readings: readonly Reading[];
  /** Adjustments for the child, where they were asked for. */
  readonly support: readonly string[];
  /** As it is to be printed; null = never asked. */
  readonly lastAsked: string | null;
}

/** A class at the end of its year, child by child by name: the working number first, what is known, what comes next. */
export function classHandOver({
  className,
  today,
  children,
  words,
  say,
}: {
  readonly className: string;
  readonly today: string;
  readonly children: readonly HandedOver[];
  /** The class's own words. */
  readonly words: Words;
  readonly say: Catalogue;
}): Block[] {
  const told = say.prints.classHandOver;
  const supported = children.filter(({ support }) => support.length > 0);
  return [
    heading(told.title(className)),
    line(told.stands(today)),
    {
      block: 'table',
      head: told.head,
      rows: children.map(({ nickname, place, need, readings, lastAsked }) => [
        nickname,
        told.number(place),
        told.knows(strengths(readings), words),
        say.plan.title([need]),
        lastAsked ?? told.never,
      ]),
      widthsMm: [25, 19, 54, 34, 32],
    },
    ...(supported.length === 0
      ? []
      : [
          heading(told.support),
          {
            block: 'list' as const,
            items: supported.map(({ nickname, support }) => `${nickname}: ${support.join('; ')}`),
          },
        ]),
    heading(say.prints.handOver.cannot),
    small(say.prints.handOver.limits),
  ];
}
