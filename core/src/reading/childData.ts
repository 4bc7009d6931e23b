import { parseFact, type Fact } from '../facts/fact';
import type { Timed } from '../latency/fit';
import type { AnswerMode, Response } from '../record/response';
import { isEvidence, isJudged } from './evidenceOf';
import { domainOf, placeFact, type Domain, type PlacedFact } from './features';
import { untimedLikelihood, type Likelihood } from './likelihood';
import { NEWEST } from './posterior';

const DAY_MS = 86_400_000;
/** Longest gap between answers that is not a holiday, in days. */
const LONGEST_BREAK_DAYS = 9;
/** Edges of the age blocks, in days: within a block a child's knowledge is taken as constant. */
export const BLOCK_EDGES = [5, 12, 21, 35] as const;
/** Times below a millisecond are not a child's. */
const LEAST_MS = 1;
/** Newest timed answers used to fit a child's times: more cost time and add nothing. */
const NEWEST_TIMED = 180;

/** One fact of a child with the answers that are evidence, newest first. */
export interface ChildFact {
  readonly fact: Fact;
  readonly placed: PlacedFact;
  readonly domain: Domain;
  readonly answers: readonly Response[];
  /** Every answer to it, evidence or not. */
  readonly all: readonly Response[];
  /** The same answers in blocks of like age, newest first; `answers` from … to, of this mean age in days before the reading. */
  readonly blocks: readonly Block[];
  /** Age of each answer in days before the reading, in the order of `answers`. */
  readonly ages: readonly number[];
  /** Likelihood of each answer and its sign, without its time. */
  readonly untimed: readonly Likelihood[];
  /** The timed answers of this fact among the child's, in the order of `answers`; null where there is no time. */
  readonly timed: readonly (Timed | null)[];
}

export interface Block {
  readonly from: number;
  readonly to: number;
  readonly ageDays: number;
  /** Given before the newest holiday. */
  readonly beforeBreak: boolean;
}

/** A child's responses, sorted once for all later passes. */
export interface ChildData {
  readonly child: string;
  readonly facts: readonly ChildFact[];
  readonly timed: readonly Timed[];
  readonly copies: Readonly<Partial<Record<AnswerMode, number>>>;
  readonly counts: number;
  /** The child was away for long, and answered before and after. */
  readonly hadBreak: boolean;
}

const ageOf = (r: Response, asOf: number): number => Math.max(0, (asOf - r.shownAt) / DAY_MS);

function blocksOf(answers: readonly Response[], asOf: number, back: number | null): Block[] {
  const age = (r: Response): number => ageOf(r, asOf);
  const key = (r: Response): string =>
    `${BLOCK_EDGES.filter((edge) => age(r) >= edge).length} ${back !== null && r.shownAt < back}`;
  const blocks: Block[] = [];
  for (let from = 0, to = 0; from < answers.length; from = to) {
    let sum = 0;
    while (to < answers.length && key(answers[to]!) === key(answers[from]!)) sum += age(answers[to++]!);
    blocks.push({ from, to, ageDays: sum / (to - from), beforeBreak: back !== null && answers[from]!.shownAt < back });
  }
  return blocks;
}

/** False where the time says nothing: building takes as long as putting counters down. */
const hasTime = (r: Response): r is Response & { responseMs: number } =>
  r.answerMode !== 'build' && r.responseMs !== null && r.responseMs >= LEAST_MS;

/** End of the newest holiday of a child: the time of the first answer after it; null when there was none. */
function afterBreak(inOrder: readonly Response[]): number | null {
  for (let i = inOrder.length - 1; i > 0; i--) {
    if (inOrder[i]!.shownAt - inOrder[i - 1]!.shownAt > LONGEST_BREAK_DAYS * DAY_MS) return inOrder[i]!.shownAt;
  }
  return null;
}

/**
 * @param responses this child's, in the order in which they were shown
 * @param asOf the moment of the reading, milliseconds since 1970
 * @param alsoFacts facts to judge even without an answer
 * @param newest how many of a fact's answers are used
 */
export function childData(
  child: string,
  responses: readonly Response[],
  asOf: number,
  alsoFacts: readonly string[],
  newest = NEWEST,
): ChildData {
  const byFact = new Map<string, Response[]>();
  const measures: (Response & { responseMs: number })[] = [];
  const copies: Partial<Record<AnswerMode, number>> = {};
  for (const r of responses) {
    if (isJudged(r)) {
      const list = byFact.get(r.fact);
      if (list) list.push(r);
      else byFact.set(r.fact, [r]);
    } else if ((r.kind === 'match' || r.kind === 'count') && isEvidence(r) && hasTime(r)) {
      if (r.kind === 'match') copies[r.answerMode] = (copies[r.answerMode] ?? 0) + 1;
      measures.push(r);
    }
  }
  const baseline = measures.slice(-NEWEST_TIMED / 2).map((r): Timed => {
    const steps = r.kind === 'count' ? parseFact(r.fact).answer : 0;
    return {
      what: r.kind === 'match' ? 'copy' : 'count',
      mode: r.answerMode,
      seconds: r.responseMs / 1000,
      steps: { fromGreater: steps, all: steps },
      weights: [0, 0, 1, 0],
    };
  });
  for (const text of alsoFacts) if (!byFact.has(text)) byFact.set(text, []);
  const back = afterBreak(responses);
  const facts = [...byFact]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([text, all]): ChildFact => {
      const fact = parseFact(text);
      const answers = all.filter(isEvidence).slice(-newest).reverse();
      return {
        fact,
        placed: placeFact(fact),
        domain: domainOf(fact),
        answers,
        all,
        blocks: blocksOf(answers, asOf, back),
        ages: answers.map((r) => ageOf(r, asOf)),
        untimed: answers.map((r) => untimedLikelihood(r, fact)),
        timed: answers.map((r) =>
          !hasTime(r)
            ? null
            : {
                what: 'fact',
                mode: r.answerMode,
                seconds: r.responseMs / 1000,
                steps: { fromGreater: 0, all: 0 },
                weights: [0.25, 0.25, 0.25, 0.25],
              },
        ),
      };
    });
  const newestTimed = facts
    .flatMap((f) => f.timed.map((timed, i) => ({ timed, at: f.answers[i]!.shownAt })))
    .filter((one): one is { timed: Timed; at: number } => one.timed !== null)
    .sort((a, b) => b.at - a.at)
    .slice(0, NEWEST_TIMED)
    .map(({ timed }) => timed);
  return {
    child,
    facts,
    timed: [...baseline, ...newestTimed],
    copies,
    counts: measures.filter((r) => r.kind === 'count').length,
    hadBreak: back !== null,
  };
}
