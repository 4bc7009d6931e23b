import { fitTimes, logPosterior, type Timed } from '../latency/fit';
import { softmax } from '../statistics/softmax';
import { STRATEGIES, StrategyTimes, type TimeExplained } from '../latency/times';
import type { Response } from '../record/response';
import { tally } from '../statistics/tally';
import type { ChildData, ChildFact } from './childData';
import {
  evidenceOn,
  FactAccounts,
  argMax,
  freshState,
  priorOf,
  type ChildState,
  type Domains,
  type Shape,
} from './childState';
import { CHANGES, type ClassValues } from './classValues';
import { FEATURES, isStep, type Domain } from './features';
import { inferField } from './field';
import { handsOf, shiftOf } from './hands';
import { heededSign, SIGN_NAMES, stepsInView, type Likelihood } from './likelihood';
import { lateBySource, untimedOf } from './sources';
import type { FieldPrior, Marginals } from './normalField';
import { KNOW, Splitting, Z_GRID } from './posterior';

const DOMAINS: readonly Domain[] = ['number', 'seeing'];

/** Scratch for the prior of one fact. */
const PRIOR = new Float64Array(Z_GRID.length);

/** Expected share of retrieval under weights on the grid. */
function expectedKnow(prior: Float64Array): number {
  let total = 0;
  let know = 0;
  for (let g = 0; g < prior.length; g++) {
    total += prior[g]!;
    know += prior[g]! * KNOW[g]!;
  }
  return know / total;
}

/** Sum over facts of the leave-one-out log-probability of their answers under the current fields. */
export function predictive(domains: Domains): number {
  let sum = 0;
  for (const domain of DOMAINS) {
    const { facts, field, evidence } = domains[domain];
    facts.forEach((fact, i) => {
      if (fact.answers.length === 0) return;
      const prior = priorOf(field, i, PRIOR);
      const e = evidence[i]!;
      let total = 0;
      let mass = 0;
      for (let g = 0; g < prior.length; g++) {
        total += prior[g]!;
        mass += prior[g]! * e[g]!;
      }
      sum += Math.log(Math.max(1e-300, mass / total));
    });
  }
  return sum;
}

/** Least probability, in the class, of a change or a dispersion that is tried on a child, and on the child, of one that is averaged over. */
const LEAST_WEIGHT = 0.02;

const possibleOf = (priors: readonly number[]): number[] =>
  priors.map((_, i) => i).filter((i) => priors[i]! >= LEAST_WEIGHT);

/** The fields of a child under some shapes, and how likely each makes the answers (logarithm). */
interface Tried {
  readonly shapes: readonly Shape[];
  readonly fitted: readonly Domains[];
  readonly logs: readonly number[];
}

/** Fits the fields of a child under some shapes, each from where they stand now. The state stays as it is. */
function fitUnder(state: ChildState, values: ClassValues, sweeps: number, shapes: readonly Shape[]): Tried {
  const now = { shape: state.shape, domains: state.domains };
  const start = DOMAINS.map((domain): Marginals => {
    const { normal, sites } = now.domains[domain];
    normal.solve(fieldPrior(state, values, domain), sites);
    return { mean: normal.mean.slice(), variance: normal.variance.slice() };
  });
  const fitted: Domains[] = [];
  const logs: number[] = [];
  for (const shape of shapes) {
    state.domains = copied(now.domains);
    state.shape = shape;
    const same = shape.scatter === now.shape.scatter;
    DOMAINS.forEach((domain, d) => fitField(state, values, domain, sweeps, same ? start[d] : undefined));
    fitted.push(state.domains);
    logs.push(predictive(state.domains));
  }
  Object.assign(state, now);
  return { shapes, fitted, logs };
}

/** Takes the likeliest of the shapes that were tried. @param priors probability of each before the answers */
function take(state: ChildState, { shapes, fitted, logs }: Tried, priors: readonly number[]): void {
  const chosen = argMax(logs.map((log, i) => log + Math.log(priors[i]!)));
  state.shape = shapes[chosen]!;
  state.domains = fitted[chosen]!;
}

/** How a child's knowledge changed: whether it grew, whether it lapsed over a holiday; by marginal likelihood, one after the other. A change moves every fact, so the field is fitted anew under each. */
export function chooseChange(state: ChildState, data: ChildData, values: ClassValues, sweeps: number): void {
  const choose = (priors: readonly number[], shape: (i: number) => Shape): number[] => {
    const possible = possibleOf(priors);
    const tried = fitUnder(state, values, sweeps, possible.map(shape));
    take(
      state,
      tried,
      possible.map((i) => priors[i]!),
    );
    return priors.map((_, i) => tried.logs[possible.indexOf(i)] ?? -Infinity);
  };
  const start = state.shape;
  const changes = choose(values.changes, (change) => ({ ...start, change }));
  const changed = state.shape;
  const mayForget = data.hadBreak && CHANGES[changed.change]!.kind === 'grown';
  const forgettings = mayForget ? choose(values.forgettings, (forgetting) => ({ ...changed, forgetting })) : null;
  state.changes = { changes, forgettings };
}

/**
 * The shape of a child's knowledge. First the likeliest scatter while nothing is taken to change; under it the change: to a scatter that has no halves, facts of which half are known and half are
 * not look like facts learned on some day. Then the field under every scatter that the class leaves possible, weighted by how likely each makes the answers: which it is is seldom plain, so that readings are
 * averaged over it.
 */
export function shapeChild(state: ChildState, data: ChildData, values: ClassValues, sweeps: number): void {
  const possible = possibleOf(values.scatters);
  const priors = possible.map((i) => values.scatters[i]!);
  const underEach = (): Tried =>
    fitUnder(
      state,
      values,
      sweeps,
      possible.map((scatter) => ({ ...state.shape, scatter })),
    );
  const unchanged = underEach();
  take(state, unchanged, priors);
  chooseChange(state, data, values, sweeps);
  const { change, forgetting } = state.shape;
  const { shapes, fitted, logs } = change === 0 && forgetting === 0 ? unchanged : underEach();
  const weights = softmax(logs.map((log, i) => log + Math.log(priors[i]!)));
  state.scattered = weights.flatMap((weight, i) =>
    weight < LEAST_WEIGHT ? [] : [{ weight, shape: shapes[i]!, domains: fitted[i]! }],
  );
}

/** The fields with sites of their own, so that both can be fitted on. */
export function copied({ number, seeing }: Domains): Domains {
  const own = (domain: Domains[Domain]): Domains[Domain] => ({
    ...domain,
    sites: { precision: domain.sites.precision.slice(), shift: domain.sites.shift.slice() },
  });
  return { number: own(number), seeing: own(seeing) };
}
/** Both fields of a child for the current likelihoods. @param goesOn from the last solution of these very fields, though the class has been learned a little further since */
export const fitFields = (state: ChildState, values: ClassValues, sweeps: number, goesOn = false): void =>
  DOMAINS.forEach((domain) =>
    fitField(state, values, domain, sweeps, goesOn ? state.domains[domain].normal : undefined),
  );

/** Precision weight of a class's step against the child's own evidence: small, so that one child may have one large step and none elsewhere. */
const STEP_TRUST = 1;

/** By fact, what its answers say without their times. */
type Untimed = ReadonlyMap<ChildFact, readonly Likelihood[]>;

/** Weighs the strategies of every timed answer by what the field and the answer itself say, before its time is looked at. Changes the data's timed answers. */
function weighStrategies(state: ChildState, untimed: Untimed): void {
  const [derive, count, guess] = state.others;
  for (const domain of DOMAINS) {
    const { facts, field } = state.domains[domain];
    facts.forEach((fact, index) => {
      if (fact.answers.length === 0) return;
      const know = expectedKnow(priorOf(field, index, PRIOR));
      const not = 1 - know;
      fact.timed.forEach((timed, i) => {
        if (!timed) return;
        const u = untimed.get(fact)![i]!;
        timed.weights = [u[0] * know, u[1] * not * derive, u[2] * not * count, u[3] * not * guess];
        timed.steps = stepsInView(fact.fact, fact.answers[i]!.exposureMs, state.times.pace);
      });
    });
  }
}

/** Counts what one timed answer says of the child's ways, for the child's own rates and the class's. Changes the sums. */
function countIn(sums: ChildState['sums'], r: Response, { weights: w, steps }: Timed, said: TimeExplained): void {
  const joint = said.densities.map((density, s) => density * w[s]!);
  const total = joint.reduce((sum, x) => sum + x, 0);
  joint.forEach((x, s) => {
    sums.lapses += (x / total) * said.lapses[s]!;
    if (s > 0) sums.others[s - 1]! += x / total;
  });
  sums.answers++;
  const sign = heededSign(r);
  if (sign !== null && r.markedBy !== '')
    tally(sums.signs, r.markedBy, joint[STRATEGIES.indexOf(SIGN_NAMES[sign])]! / total);
  if (steps.all > steps.fromGreater) {
    sums.counted += joint[2]! / total;
    sums.countedAll += (joint[2]! / total) * said.countedAll;
  }
}

/** Takes the likelihoods of all answers by the child's times, and counts what they say of the child's ways. Changes the state. */
function hearAnswers(state: ChildState, data: ChildData, untimed: Untimed): void {
  const made = new Map<string, StrategyTimes>();
  const timesOf = ({ source, mode, shift }: Timed): StrategyTimes => {
    const key = `${source} ${shift}`;
    let times = made.get(key);
    if (!times) made.set(key, (times = new StrategyTimes(state.times, mode, shift)));
    return times;
  };
  const sums: ChildState['sums'] = {
    others: [0, 0, 0],
    answers: 0,
    lapses: 0,
    counted: 0,
    countedAll: 0,
    sources: lateBySource(data.timed, state.times),
    signs: new Map(),
  };
  const splitting = new Splitting(state.others);
  const accounts = new Map<ChildFact, FactAccounts>();
  for (const fact of data.facts) {
    if (fact.answers.length === 0) continue;
    const answers = fact.answers.map((r, i): Likelihood => {
      const u = untimed.get(fact)![i]!;
      const timed = fact.timed[i];
      if (!timed) return u;
      const said = timesOf(timed).explain(timed.seconds, timed.steps);
      countIn(sums, r, timed, said);
      const d = said.densities;
      return [d[0] * u[0], d[1] * u[1], d[2] * u[2], d[3] * u[3]];
    });
    accounts.set(fact, new FactAccounts(fact, answers, splitting, data.spanDays));
  }
  state.accounts = accounts;
  state.sums = sums;
}

/** One round for one child with the class held fixed: strategies, hands, times, likelihoods of the answers, rates, field. Changes the state. */
export function updateChild(
  state: ChildState,
  data: ChildData,
  values: ClassValues,
  round: { readonly hands: boolean; readonly timeRounds: number; readonly sweeps: number },
): void {
  const untimed = new Map(data.facts.map((fact) => [fact, untimedOf(fact, values)]));
  weighStrategies(state, untimed);
  if (round.hands) state.hands = handsOf(data, state.times, values);
  for (const timed of data.byMode.values()) for (const t of timed) t.shift = shiftOf(t, state.hands, values);
  if (round.timeRounds > 0) state.times = fitTimes(data.timed, state.times, values.times, round.timeRounds);
  hearAnswers(state, data, untimed);
  settleChild(state, values);
  fitFields(state, values, round.sweeps);
}

/** Counts from which on a pace is measured: with fewer it is found by trying. */
const ENOUGH_COUNTS = 3;
/** Where else a climb begins: with quick counting of everything, and with slow counting on. Pace as a multiple of the usual one, and share that counts all. */
const OTHER_STARTS = [
  { pace: 0.5, countsAll: 0.9 },
  { pace: 1.6, countsAll: 0.1 },
] as const;

/** A child's state to begin with. Where the pace was never measured, the likeliest of several climbs: quick counting of everything and slow counting on take about as long. */
export function startedState(data: ChildData, values: ClassValues, scatter?: number): ChildState {
  const usual = freshState(data, values, scatter);
  if (data.counts >= ENOUGH_COUNTS || data.timed.length === 0) return usual;
  const states = [
    usual,
    ...OTHER_STARTS.map(({ pace, countsAll }) => {
      const state = freshState(data, values, scatter);
      state.times = { ...state.times, pace: pace * state.times.pace, countsAll };
      return state;
    }),
  ];
  const scores = states.map((state) => {
    for (let round = 0; round < 2; round++) updateChild(state, data, values, { hands: true, timeRounds: 4, sweeps: 1 });
    return logPosterior(data.timed, state.times, values.times);
  });
  return states[argMax(scores)]!;
}

/** The child's own rates, shrunk to the class's (worth a number of pseudo-answers). */
function settleChild(state: ChildState, values: ClassValues): void {
  const { others, answers, lapses, counted, countedAll } = state.sums;
  const rest = others[0] + others[1] + others[2];
  const mixed = ([0, 1, 2] as const).map((s) => (10 * values.others[s] + others[s]) / (10 + rest));
  state.others = [mixed[0]!, mixed[1]!, mixed[2]!];
  state.times = {
    ...state.times,
    lapseRate: Math.min(0.4, (40 * values.lapseRate + lapses) / (40 + answers)),
    countsAll: (8 * values.countsAll + countedAll) / (8 + counted),
  };
}

/** Prior of a child's field: the class's, with the child's own steps. */
function fieldPrior(state: ChildState, values: ClassValues, domain: Domain): FieldPrior {
  const { mean, variance, ...shared } = values.fields[state.shape.scatter]![domain];
  return {
    ...shared,
    mean: Float64Array.from(mean),
    variance: state.domains[domain].stepVariance ?? Float64Array.from(variance),
  };
}

/** Solves the child's field in one domain for the current likelihoods. Changes the state. */
function fitField(state: ChildState, values: ClassValues, domain: Domain, sweeps: number, start?: Marginals): void {
  const at = state.domains[domain];
  if (at.facts.length === 0) return;
  const shared = values.fields[state.shape.scatter]![domain];
  at.evidence = at.facts.map((fact) => evidenceOn(fact, state.accounts, state.shape));
  at.field = inferField(at.normal, fieldPrior(state, values, domain), at.evidence, at.sites, sweeps, start);
  const { weightMean, weightCovariance } = at.normal;
  // Heavy tails for steps (automatic relevance determination): a step that the answers ask for is let be large.
  at.stepVariance = Float64Array.from(FEATURES[domain], (feature, i) => {
    const own = shared.variance[i]!;
    if (!isStep(feature)) return own;
    const square = (weightMean[i]! - shared.mean[i]!) ** 2 + weightCovariance[i * weightMean.length + i]!;
    return Math.max(0.02, (STEP_TRUST * own + square) / (STEP_TRUST + 1));
  });
}
