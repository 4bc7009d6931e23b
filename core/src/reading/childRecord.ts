import { DAY_MS } from '../time/schoolDay';
import type { Response, Sign } from '../record/response';
import { grouped } from '../statistics/grouped';
import { isEvidence, isJudged } from './evidenceOf';
import { heededSign } from './likelihood';

/** Longest gap between answers that is not a holiday, in days. */
const LONGEST_BREAK_DAYS = 9;
/** Times below a millisecond are not a child's. */
const LEAST_MS = 1;

export type TimedResponse = Response & { responseMs: number };

/** The answers to one fact that are evidence, oldest first, and the signs on them. */
export interface FactRecord {
  readonly evidence: readonly Response[];
  /** Those of them in which something was answered. */
  readonly answers: readonly Response[];
  readonly signs: ReadonlySet<Sign>;
}

/** A child's responses, gone through once for everything that is computed from them: a record of years is long. */
export interface ChildRecord {
  readonly child: string;
  /** Moment of the newest response, milliseconds since 1970; 0 without any. */
  readonly newestAt: number;
  /** What is evidence, by fact; a fact that was asked without any has a place here too. */
  readonly facts: ReadonlyMap<string, FactRecord>;
  /** Copied numerals and counted pictures with a time, oldest first. */
  readonly measures: readonly TimedResponse[];
  /** End of the newest holiday: the time of the first answer after it; null when there was none. */
  readonly back: number | null;
}

/** False where the time says nothing: building takes as long as putting counters down, and who says nothing took none. */
export const hasTime = (r: Response): r is TimedResponse =>
  r.answerMode !== 'build' && r.outcome !== 'none' && r.responseMs !== null && r.responseMs >= LEAST_MS;

const order = (a: Response, b: Response): number => a.shownAt - b.shownAt || (a.id < b.id ? -1 : 1);

/** @param responses this child's, in any order; by time is quickest */
export function childRecord(child: string, responses: readonly Response[]): ChildRecord {
  const facts = new Map<
    string,
    { readonly evidence: Response[]; readonly answers: Response[]; readonly signs: Set<Sign> }
  >();
  const measures: TimedResponse[] = [];
  let back: number | null = null;
  let before: Response | null = null;
  for (const r of responses) {
    if (before !== null) {
      const gap = r.shownAt - before.shownAt;
      if (gap < 0 || (gap === 0 && order(before, r) > 0)) return childRecord(child, [...responses].sort(order));
      if (gap > LONGEST_BREAK_DAYS * DAY_MS) back = r.shownAt;
    }
    before = r;
    if (isJudged(r)) {
      let own = facts.get(r.fact);
      if (!own) facts.set(r.fact, (own = { evidence: [], answers: [], signs: new Set() }));
      if (!isEvidence(r)) continue;
      own.evidence.push(r);
      if (r.outcome !== 'none') own.answers.push(r);
      const sign = heededSign(r);
      if (sign !== null) own.signs.add(sign);
    } else if ((r.kind === 'match' || r.kind === 'count') && isEvidence(r) && hasTime(r)) measures.push(r);
  }
  return { child, newestAt: before?.shownAt ?? 0, facts, measures, back };
}

/** The records of several children, in the order in which they first appear. */
export const childRecords = (responses: readonly Response[]): ChildRecord[] =>
  [...grouped(responses, ({ child }) => child)].map(([child, own]) => childRecord(child, own));
