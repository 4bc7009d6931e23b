import { toRow, type RecordRow } from '@vane/contract';
import { parseFact, untimedAnswer, type Sign } from '@vane/core';
import { v7 } from 'uuid';

/** What an adult hears of an answer without a screen. */
export const HEARD = ['saw', 'worked-out', 'counted', 'not-yet'] as const;
export type Heard = (typeof HEARD)[number];

const SIGN: Record<Heard, Sign | null> = { saw: 'knew', 'worked-out': 'derived', counted: 'counted', 'not-yet': null };

/**
 * An answer that was only heard: what counts is what the adult saw. From memory it is judged by that sign; with cubes in view it is kept and shown, and never judged. What was said wrong is not
 * written down.
 */
export function heardRow(
  { cubes, ...asked }: { child: string; sitting: string; fact: string; cubes: boolean },
  heard: Heard,
  shownAt: number,
): RecordRow {
  const right = heard !== 'not-yet';
  const given = right ? String(parseFact(asked.fact).answer) : '';
  const answer = untimedAnswer({
    ...asked,
    id: v7(),
    shownAt,
    given,
    sign: SIGN[heard],
    aid: cubes ? 'objects' : 'none',
  });
  return toRow({ ...answer, outcome: right ? 'correct' : 'wrong' });
}
