import type { Reading } from '../reading/reading';

/** How long ago a child was last asked, as the tide lines of Today group it. */
export const TIDE_LINES = ['never', 'over-a-week', 'this-week', 'lately'] as const;
export type TideLine = (typeof TIDE_LINES)[number];

export interface ChildSoFar {
  readonly child: string;
  /** Milliseconds since 1970; null = never asked. */
  readonly lastAskedAt: number | null;
  readonly readings: readonly Reading[];
}

/** What Today proposes for one child, as data. */
export interface Proposal {
  readonly child: string;
  readonly line: TideLine;
  /** Whole days since the child was last asked; null = never. */
  readonly daysSince: number | null;
  /** Frame shows that are read as counted, worked out or not yet, smallest first. */
  readonly counted: readonly string[];
  /** Frame shows whose reading waits for more answers. */
  readonly unsure: readonly string[];
}

const DAY_MS = 86_400_000;

function lineOf(daysSince: number | null): TideLine {
  if (daysSince === null) return 'never';
  if (daysSince > 7) return 'over-a-week';
  return daysSince >= 2 ? 'this-week' : 'lately';
}

/** Days between two moments, counted in midnights of the given clock rather than in spans of 24 hours: "yesterday" is one day however late. */
const daysBetween = (from: number, to: number, offsetMs: number): number => Math.floor((to + offsetMs) / DAY_MS) - Math.floor((from + offsetMs) / DAY_MS);

/**
 * The class in the order in which children should be asked: longest waiting first, and among equals those with more left to settle.
 * @param offsetMs the teacher's clock minus UTC, in milliseconds
 */
export function whoNext(children: readonly ChildSoFar[], now: number, offsetMs: number): Proposal[] {
  const bySize = (a: string, b: string): number => Number(a.split(':')[1]) - Number(b.split(':')[1]) || (a < b ? -1 : 1);
  return children
    .map(({ child, lastAskedAt, readings }): Proposal => {
      const daysSince = lastAskedAt === null ? null : Math.max(0, daysBetween(lastAskedAt, now, offsetMs));
      const shows = readings.filter((r) => r.fact.startsWith('show:'));
      const named = (words: readonly string[]): string[] =>
        shows
          .filter((r) => words.includes(r.reading))
          .map((r) => r.fact)
          .sort(bySize);
      return { child, line: lineOf(daysSince), daysSince, counted: named(['counts', 'works out', 'not yet']), unsure: named(['too few answers']) };
    })
    .sort(
      (a, b) =>
        (b.daysSince ?? 1e9) - (a.daysSince ?? 1e9) || b.counted.length + b.unsure.length - a.counted.length - a.unsure.length || (a.child < b.child ? -1 : 1),
    );
}
