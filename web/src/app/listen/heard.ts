import { toRow, type RecordRow } from '@vane/contract';
import { NOTHING_ADDED, parseFact, type Sign } from '@vane/core';
import { v7 } from 'uuid';

/** What an adult hears of an answer without a screen. */
export const HEARD = ['saw', 'worked-out', 'counted', 'not-yet'] as const;
export type Heard = (typeof HEARD)[number];

const SIGN: Record<Heard, Sign | null> = { saw: 'knew', 'worked-out': 'derived', counted: 'counted', 'not-yet': null };

/**
 * An answer that was only heard. No time is taken: what counts is what the adult saw. From memory it is judged by that sign; with cubes in view it is kept and shown, and never judged.
 */
export function heardRow(
  { child, sitting, fact, cubes }: { child: string; sitting: string; fact: string; cubes: boolean },
  heard: Heard,
  shownAt: number,
): RecordRow {
  const { kind, answer } = parseFact(fact);
  const right = heard !== 'not-yet';
  return toRow({
    ...NOTHING_ADDED,
    id: v7(),
    child,
    sitting,
    shownAt,
    kind,
    fact,
    answerMode: 'spoken',
    exposureMs: null,
    responseMs: null,
    given: right ? String(answer) : '',
    outcome: right ? 'correct' : 'wrong',
    sign: SIGN[heard],
    aid: cubes ? 'objects' : 'none',
  });
}
