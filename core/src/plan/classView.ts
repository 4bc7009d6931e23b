import { isOpen, type Reading } from '../reading/reading';

/** A fact that many of a class still count. */
interface StillCounted {
  readonly fact: string;
  /** Children whose reading is counts, works out or not yet. */
  readonly counting: readonly string[];
  /** Children whose reading settles it. */
  readonly read: number;
}

const NOT_KNOWN = ['counts', 'works out', 'not yet'];

/** The facts that at least half of those with a reading still count, most children first; facts with fewer than `least` readings are left out. */
export function stillCounted(readings: readonly Reading[], least: number): StillCounted[] {
  const byFact = new Map<string, Reading[]>();
  for (const r of readings) {
    if (isOpen(r.reading)) continue;
    const list = byFact.get(r.fact);
    if (list) list.push(r);
    else byFact.set(r.fact, [r]);
  }
  return [...byFact]
    .map(([fact, own]) => ({
      fact,
      counting: own.filter((r) => NOT_KNOWN.includes(r.reading)).map((r) => r.child),
      read: own.length,
    }))
    .filter(({ counting, read }) => read >= least && 2 * counting.length >= read)
    .sort((a, b) => b.counting.length - a.counting.length || (a.fact < b.fact ? -1 : 1));
}
