import { tooShortToTell } from '../facts/counting';
import { parseFact, type Fact } from '../facts/fact';
import { fitTimes, startTimes, timedAnswers, type Explains } from '../latency/fit';
import { StrategyTimes, type ChildTimes } from '../latency/times';
import type { AnswerMode, Response } from '../record/response';
import { levelOf, type Level, type PlacedFact } from './level';
import { answerLikelihood, likelihood, stepsInView, type Likelihood } from './likelihood';
import { factEvidence, NEWEST, type FactEvidence } from './posterior';
import { domainOf, ease, type Domain } from './prior';
import { wordFor, type ChildEstimate, type Reading, type ReadingSettings } from './reading';

/** Everything Vane concludes from one child's responses. */
export interface ChildJudgement {
  readonly estimate: ChildEstimate;
  readonly readings: readonly Reading[];
}

const DAY_MS = 86_400_000;

/** True for an answer that the judgement may use: first look, unaided, neither void nor flagged (READING.md, section 2). */
export const isEvidence = (r: Response): boolean => r.void === '' && r.flags.length === 0 && r.aid === 'none';

/** True for kinds that ask for a fact that can be known, as against measures of hand and pace and routines that record several facts. */
export const isJudged = (r: Response): boolean => ['add', 'subtract', 'missing', 'bond', 'show'].includes(r.kind);

/** Shares by which strategies mix before a fact is judged: used only to weigh times in the fit of a child's own times. */
const MIXED: Likelihood = [0.4, 0.1, 0.42, 0.08];

/** Marginal log-likelihood of one timed answer: copies and counts say what they were; facts could have been anything. */
const explains: Explains = ({ response, fact, seconds }, times, pace) => {
  if (fact.kind === 'match') return Math.log(times.match(seconds));
  if (fact.kind === 'count') return Math.log(times.counting(seconds, fact.answer));
  const time = times.densities(seconds, stepsInView(fact, response.exposureMs, pace));
  const answer = answerLikelihood(response, fact);
  return Math.log(time.reduce((sum, density, s) => sum + density * (answer[s] ?? 0) * (MIXED[s] ?? 0), 0));
};

interface JudgedFact extends PlacedFact {
  readonly fact: Fact;
  readonly answers: readonly Response[];
}

function estimateOf(child: string, responses: readonly Response[]): ChildEstimate {
  const timed = timedAnswers(responses.filter((r) => isJudged(r) || r.kind === 'match' || r.kind === 'count'));
  const times = fitTimes(timed, startTimes(timed), explains);
  const copies: Record<string, number> = {};
  for (const t of timed) if (t.fact.kind === 'match') copies[t.response.answerMode] = (copies[t.response.answerMode] ?? 0) + 1;
  return { child, times, copies, counts: timed.filter((t) => t.fact.kind === 'count').length };
}

/** What is known of the times of a child who has not answered yet: nothing but the prior. */
export const unknownEstimate = (child: string): ChildEstimate => estimateOf(child, []);

function groupedByFact(responses: readonly Response[]): Map<string, Response[]> {
  const byFact = new Map<string, Response[]>();
  for (const r of responses) {
    const list = byFact.get(r.fact);
    if (list) list.push(r);
    else byFact.set(r.fact, [r]);
  }
  return byFact;
}

function placed(text: string, answers: readonly Response[], times: ChildTimes, densities: (mode: AnswerMode) => StrategyTimes): JudgedFact {
  const fact = parseFact(text);
  const used = answers.filter(isEvidence).slice(-NEWEST);
  const evidence = factEvidence(used.map((r) => likelihood(r, fact, densities(r.answerMode), times.pace)));
  return { fact, answers, ease: ease(fact), evidence };
}

/** E over z of a value known at every z. */
function expected(values: Float64Array, weights: Float64Array): number {
  let sum = 0;
  for (let z = 0; z < weights.length; z++) sum += values[z]! * weights[z]!;
  return sum;
}

/** P(z | everything): the prior from all other facts times this fact's evidence. */
function posteriorOf(prior: Float64Array, evidence: FactEvidence): Float64Array {
  const w = prior.map((p, z) => p * evidence.evidence[z]!);
  const total = w.reduce((sum, x) => sum + x, 0);
  return w.map((x) => x / total);
}

const rounded = (x: number): number => Math.round(x * 1e4) / 1e4;

function readingOf(child: string, item: JudgedFact, level: Level, index: number | null, settings: ReadingSettings): Reading {
  const w = posteriorOf(level.priorFor(item.ease, index), item.evidence);
  const shares = item.evidence.shares.map((share) => expected(share, w)) as [number, number, number, number];
  const pAutomatic = expected(item.evidence.automatic, w);
  const used = item.answers.filter(isEvidence);
  const judged = {
    pAutomatic,
    shares,
    answers: used.length,
    days: new Set(used.map((r) => Math.floor(r.shownAt / DAY_MS))).size,
    wrong: used.slice(-NEWEST).filter((r) => r.outcome !== 'correct').length * (used.length > NEWEST ? used.length / NEWEST : 1),
    tooShort: tooShortToTell(item.fact),
    signed: used.some((r) => r.sign !== null),
  };
  const n = used.length;
  return {
    child,
    fact: item.fact.text,
    ...wordFor(judged, settings),
    pAutomatic: rounded(pAutomatic),
    lean: rounded(shares[0] - shares[2]),
    certainty: rounded(Math.abs(2 * pAutomatic - 1) * (n / (n + 2))),
    responses: n,
    days: judged.days,
  };
}

/** Readings wanted beyond the facts that have responses. */
export interface JudgeOptions {
  readonly settings: ReadingSettings;
  /** Facts to read even without an answer of their own, from the child's level. */
  readonly alsoFacts?: readonly string[];
}

/**
 * Judges one child from its responses alone: pure, and the same in Node and in the browser.
 * @param responses this child's, in any order; facts must parse (`parseFact`)
 * @returns the child's times and one reading per fact that has a response, ordered by fact text
 */
export function judgeChild(child: string, responses: readonly Response[], { settings, alsoFacts = [] }: JudgeOptions): ChildJudgement {
  const inOrder = [...responses].sort((a, b) => a.shownAt - b.shownAt || (a.id < b.id ? -1 : 1));
  const estimate = estimateOf(child, inOrder);
  const made = new Map<AnswerMode, StrategyTimes>();
  const densities = (mode: AnswerMode): StrategyTimes => {
    let times = made.get(mode);
    if (!times) made.set(mode, (times = new StrategyTimes(estimate.times, mode)));
    return times;
  };
  const byFact = groupedByFact(inOrder.filter(isJudged));
  for (const text of alsoFacts) if (!byFact.has(text)) byFact.set(text, []);
  const facts = [...byFact].sort(([a], [b]) => (a < b ? -1 : 1)).map(([text, answers]) => placed(text, answers, estimate.times, densities));
  const readings = (['number', 'seeing'] as Domain[]).flatMap((domain) => {
    const own = facts.filter((item) => domainOf(item.fact) === domain);
    const level = levelOf(own);
    return own.map((item, index) => readingOf(child, item, level, index, settings));
  });
  return { estimate, readings: readings.sort((a, b) => (a.fact < b.fact ? -1 : 1)) };
}

/** Judges every child of a record by itself, in the order in which children first appear. */
export function judgeClass(responses: readonly Response[], options: JudgeOptions): ChildJudgement[] {
  const byChild = new Map<string, Response[]>();
  for (const r of responses) {
    const list = byChild.get(r.child);
    if (list) list.push(r);
    else byChild.set(r.child, [r]);
  }
  return [...byChild].map(([child, own]) => judgeChild(child, own, options));
}
