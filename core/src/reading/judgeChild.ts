import { halfLifeDays, askedByDay } from './forgetting';
import type { Response } from '../record/response';
import { childData, type ChildData, type ChildFact } from './childData';
import { childRecord, childRecords, type ChildRecord } from './childRecord';
import { shapeChild, startedState, updateChild } from './childFit';
import { priorOf, likelihoodTerms, type ChildState } from './childState';
import { tellingOffsets } from './hands';
import { CLASS_NEWEST, fitClass } from './classFit';
import { CLASS_BEFORE, type ClassValues } from './classValues';
import { SIGN_NAMES, type Likelihood } from './likelihood';
import { averaged, factPosterior, NO_ANSWERS, type FactPosterior } from './posterior';
import { timeTells } from './timeTells';
import { schoolDays } from '../time/schoolDay';
import { DEFAULT_READING_SETTINGS, wordFor, type ChildEstimate, type Reading, type ReadingSettings } from './reading';

/** Everything Vane concludes from one child's responses. */
export interface ChildJudgement {
  readonly estimate: ChildEstimate;
  readonly readings: readonly Reading[];
}

export interface JudgeOptions {
  readonly settings: ReadingSettings;
  /** Facts to read even without an answer of their own, from the rest of what the child knows. */
  readonly alsoFacts?: readonly string[];
  /** The moment of the reading, milliseconds since 1970; the child's newest response when not given. */
  readonly asOf?: number;
}

const ROUNDS = 2;

const rounded = (x: number): number => Math.round(x * 1e4) / 1e4;

/** A fact judged under every dispersion that the child's answers leave possible. @param heard false leaves its own answers out */
const posteriorsOf = (item: ChildFact, state: ChildState, heard = true) => {
  const index = state.domains[item.domain].facts.indexOf(item);
  return state.scattered.map(({ weight, shape, domains }) => ({
    weight,
    shape,
    posterior: factPosterior(
      heard ? likelihoodTerms(item, state.accounts, shape) : NO_ANSWERS,
      shape.scatter,
      state.others,
      priorOf(domains[item.domain].field, index),
    ),
  }));
};

function readingOf(estimate: ChildEstimate, item: ChildFact, state: ChildState, days: number): Reading {
  const posterior = averaged(posteriorsOf(item, state));
  const given = item.record.answers;
  const n = given.length;
  const judged = {
    pAutomatic: posterior.pAutomatic,
    withoutOwn: () => averaged(posteriorsOf(item, state, false)).pAutomatic,
    shares: posterior.shares,
    answers: n,
    days,
    wrong:
      (item.answers.filter((r) => r.outcome === 'wrong').length * n) /
      Math.max(1, item.answers.filter((r) => r.outcome !== 'none').length),
    timeTells: timeTells(item.fact, given, estimate),
    signed: Array.from(item.record.signs, (sign) => SIGN_NAMES[sign]),
  };
  return {
    child: estimate.child,
    fact: item.fact.text,
    ...wordFor(judged),
    pAutomatic: rounded(posterior.pAutomatic),
    lean: rounded(posterior.shares[0] - posterior.shares[2]),
    // How narrow the share retrieved is known (0.5: not at all), and how much of that is these answers' doing.
    certainty: rounded(Math.max(0, 1 - 2 * Math.sqrt(posterior.variance)) * (n / (n + 1))),
    responses: n,
    days,
  };
}

/** A child's times, fields and shapes, fitted with the class held fixed. */
function settled(data: ChildData, values: ClassValues): ChildState {
  const state = startedState(data, values);
  for (let round = 0; round < ROUNDS; round++) {
    updateChild(state, data, values, { hands: true, timeRounds: 4, sweeps: 2 });
  }
  shapeChild(state, data, values, 2);
  return state;
}

function judged(data: ChildData, values: ClassValues, settings: ReadingSettings): ChildJudgement {
  const state = settled(data, values);
  const dayOf = schoolDays(settings.timeZone);
  const days = data.facts.map(({ record }) => askedByDay(record.evidence, dayOf));
  const estimate: ChildEstimate = {
    child: data.child,
    times: state.times,
    hands: tellingOffsets(state.hands, data),
    copies: data.copies,
    counts: data.counts,
    halfLifeDays: halfLifeDays(days),
  };
  const readings = data.facts.map((item) =>
    readingOf(estimate, item, state, new Set(item.record.answers.map((r) => dayOf(r.shownAt))).size),
  );
  return { estimate, readings };
}

/** Times of a child who has not answered yet: the class's. */
export const unknownEstimate = (child: string, values: ClassValues = CLASS_BEFORE): ChildEstimate =>
  judged(childData(childRecord(child, []), 0, []), values, DEFAULT_READING_SETTINGS).estimate;

const judgeRecord = (
  record: ChildRecord,
  values: ClassValues,
  { settings, alsoFacts = [], asOf = record.newestAt }: JudgeOptions,
): ChildJudgement => judged(childData(record, asOf, alsoFacts), values, settings);

/**
 * Judges one child from their responses with the class held fixed: pure, and the same in Node and in the browser.
 * @param responses this child's, in any order; facts must parse (`parseFact`)
 * @returns the child's times and one reading per fact that has a response, ordered by fact text
 */
export function judgeChild(
  child: string,
  responses: readonly Response[],
  values: ClassValues,
  options: JudgeOptions,
): ChildJudgement {
  return judgeRecord(childRecord(child, responses), values, options);
}

/** Why one fact reads as it does: everything its reading was computed from. Shares, probabilities and likelihoods from 0 to 1, times in seconds. */
interface Explained {
  readonly times: ChildState['times'];
  /** Places in CHANGES and FORGETTINGS. */
  readonly change: number;
  readonly forgetting: number;
  /** Likelihood of each judged answer under retrieve, derive, count and guess, newest first, the greatest scaled to one. */
  readonly answers: readonly { readonly response: Response; readonly likelihood: Likelihood }[];
  /** By dispersion (its place in SCATTERS): its weight, and the probability of automatic with the fact's own answers and without. */
  readonly dispersions: readonly {
    readonly scatter: number;
    readonly weight: number;
    readonly pAutomatic: number;
    readonly withoutOwn: number;
  }[];
  /** Averaged over the dispersions. */
  readonly posterior: FactPosterior;
  readonly withoutOwn: FactPosterior;
}

/**
 * @param responses this child's, in any order
 * @param factText the fact to explain
 * @returns null when the child has no response to it
 */
export function explainFact(
  child: string,
  responses: readonly Response[],
  values: ClassValues,
  factText: string,
): Explained | null {
  const record = childRecord(child, responses);
  const data = childData(record, record.newestAt, []);
  const item = data.facts.find(({ fact }) => fact.text === factText);
  if (!item) return null;
  const state = settled(data, values);
  const own = posteriorsOf(item, state);
  const without = posteriorsOf(item, state, false);
  const likelihoods = state.accounts.get(item)?.answers ?? [];
  return {
    times: state.times,
    change: state.shape.change,
    forgetting: state.shape.forgetting,
    answers: item.answers.map((response, i) => {
      const [a, b, c, d] = likelihoods[i]!;
      const top = Math.max(a, b, c, d, Number.MIN_VALUE);
      return { response, likelihood: [a / top, b / top, c / top, d / top] };
    }),
    dispersions: own.map(({ weight, shape, posterior }, i) => ({
      scatter: shape.scatter,
      weight,
      pAutomatic: posterior.pAutomatic,
      withoutOwn: without[i]!.posterior.pAutomatic,
    })),
    posterior: averaged(own),
    withoutOwn: averaged(without),
  };
}

const fitRecords = (records: readonly ChildRecord[]): ClassValues =>
  fitClass(records.map((record) => childData(record, record.newestAt, [], CLASS_NEWEST)));

/** What the children of a class have in common, from all their responses, in any order. The newest CLASS_NEWEST of each child's answers to a fact are enough. */
export const classValues = (responses: readonly Response[]): ClassValues => fitRecords(childRecords(responses));

/** Judges children with the class held fixed, in the order in which they first appear. */
export const judgeChildren = (
  responses: readonly Response[],
  values: ClassValues,
  options: JudgeOptions,
): ChildJudgement[] => childRecords(responses).map((record) => judgeRecord(record, values, options));

/** Judges every child of a record within their class, in the order in which children first appear. */
export function judgeClass(responses: readonly Response[], options: JudgeOptions): ChildJudgement[] {
  const records = childRecords(responses);
  const values = fitRecords(records);
  return records.map((record) => judgeRecord(record, values, options));
}
