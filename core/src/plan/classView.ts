import type { Reading } from '../reading/reading';
import { grouped } from '../statistics/grouped';
import { standingOf, type Standing } from './standing';

/** A fact that many of a class do not know yet. */
interface StillCounted {
  readonly fact: string;
  /** Children who were asked it. */
  readonly asked: number;
  /** Those who count it, work it out or do not have it right yet, and how it stands with each. */
  readonly open: readonly { readonly child: string; readonly standing: Standing }[];
}

/** What is settled and not known; nearly known is as good as known here. */
const OPEN: readonly Standing[] = ['worked out', 'counted', 'not yet'];

/** The facts that at least half of those who were asked do not know yet, most children first; facts that fewer than `least` were asked are left out. */
export function stillCounted(readings: readonly Reading[], least: number): StillCounted[] {
  const asked = readings.filter((one) => standingOf(one) !== 'not asked');
  return [...grouped(asked, ({ fact }) => fact)]
    .map(([fact, own]) => ({
      fact,
      asked: own.length,
      open: own
        .map((one) => ({ child: one.child, standing: standingOf(one) }))
        .filter(({ standing }) => OPEN.includes(standing)),
    }))
    .filter((one) => one.asked >= least && 2 * one.open.length >= one.asked)
    .sort((a, b) => b.open.length - a.open.length || (a.fact < b.fact ? -1 : 1));
}
