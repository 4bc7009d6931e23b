import { fitTimes } from '../latency/fit';
import { StrategyTimes } from '../latency/times';
import type { AnswerMode } from '../record/response';
import type { ChildData, ChildFact } from './childData';
import { evidenceOn, FactAccounts, priorOf, type ChildState, type Domains, type Shape } from './childState';
import type { ClassValues } from './classValues';
import { FEATURES, isStep, type Domain } from './features';
import { inferField } from './field';
import { stepsInView, type Likelihood } from './likelihood';
import type { FieldPrior, Marginals } from './normalField';
import { Splitting, Z_GRID } from './posterior';

const DOMAINS: readonly Domain[] = ['number', 'seeing'];

const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
const KNOW = Z_GRID.map(logistic);

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
function predictive(domains: Domains): number {
  let sum = 0;
  for (const domain of DOMAINS) {
    const { facts, field, evidence } = domains[domain];
    facts.forEach((fact, i) => {
      if (fact.answers.length === 0) return;
      const prior = priorOf(field, i);
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

/** Probabilities from logarithms. */
function normalised(logs: readonly number[]): number[] {
  const top = Math.max(...logs);
  const raw = logs.map((x) => Math.exp(x - top));
  const total = raw.reduce((sum, x) => sum + x, 0);
  return raw.map((x) => x / total);
}
const likeliest = (shares: readonly number[]): number => shares.reduce((at, s, i) => (s > shares[at]! ? i : at), 0);

/** Log-odds below which no further change model is tried: a likelihood that falls this far at the first step does not recover at the second. */
const GIVE_UP = -4;

/** Least probability of a dispersion prior that is averaged over. */
const LEAST_WEIGHT = 0.02;

/**
 * The fields of a child fitted under some shapes, each from where they stand now, with the probability of each shape.
 * @param giveUp log-probability, beside the first shape's, below which what comes after is not tried: for changes that grow from one shape to the next
 */
function fitUnder(
  state: ChildState,
  values: ClassValues,
  sweeps: number,
  priors: readonly number[],
  shape: (i: number) => Shape,
  giveUp = -Infinity,
) {
  const now = state.domains;
  const start = DOMAINS.map((domain): Marginals => {
    const { normal, sites } = now[domain];
    normal.solve(fieldPrior(state, values, domain), sites);
    return { mean: normal.mean.slice(), variance: normal.variance.slice() };
  });
  const fitted: Domains[] = [];
  const logs: number[] = [];
  priors.forEach((prior, i) => {
    if (i > 1 && logs[i - 1]! < logs[0]! + giveUp) return void logs.push(-Infinity);
    state.domains = { number: withSites(now.number), seeing: withSites(now.seeing) };
    state.shape = shape(i);
    DOMAINS.forEach((domain, d) => fitField(state, values, domain, sweeps, start[d]));
    fitted.push(state.domains);
    logs.push(Math.log(prior) + predictive(state.domains));
  });
  const shares = normalised(logs);
  const chosen = likeliest(shares);
  state.shape = shape(chosen);
  state.domains = fitted[chosen]!;
  return { shares, fitted };
}

/**
 * The shape of a child's knowledge: whether it grew, whether it lapsed over a holiday, how facts scatter around what is expected of them; each by evidence, one
 * after the other. A change moves every fact, so the field is fitted anew under each. Growth and lapse are chosen; how facts scatter is seldom plain, so that the readings
 * are averaged over it.
 */
export function chooseShape(state: ChildState, data: ChildData, values: ClassValues, sweeps: number): void {
  const start = state.shape;
  const growths = fitUnder(state, values, sweeps, values.growths, (growth) => ({ ...start, growth }), GIVE_UP).shares;
  const grown = state.shape;
  const forgettings = data.hadBreak
    ? fitUnder(state, values, sweeps, values.forgettings, (forgetting) => ({ ...grown, forgetting })).shares
    : values.forgettings;
  const changed = state.shape;
  const { shares: scatters, fitted } = fitUnder(state, values, sweeps, values.scatters, (scatter) => ({
    ...changed,
    scatter,
  }));
  state.scattered = fitted.flatMap((domains, scatter) =>
    scatters[scatter]! < LEAST_WEIGHT ? [] : [{ weight: scatters[scatter]!, shape: { ...changed, scatter }, domains }],
  );
  state.shapes = { growths, forgettings, scatters };
}

const withSites = (domain: Domains[Domain]): Domains[Domain] => ({
  ...domain,
  sites: { precision: domain.sites.precision.slice(), shift: domain.sites.shift.slice() },
});

/** Precision weight of a class's step against the child's own evidence: small, so that one child may have one large step and none elsewhere. */
const STEP_TRUST = 1;

/** One round for one child with the class held fixed: times, likelihoods of the answers, field. Changes the state. */
export function updateChild(
  state: ChildState,
  data: ChildData,
  values: ClassValues,
  round: { readonly timeRounds: number; readonly sweeps: number },
): void {
  const { pace } = state.times;
  for (const domain of DOMAINS) {
    const { facts, field } = state.domains[domain];
    facts.forEach((fact, index) => {
      if (fact.answers.length === 0) return;
      const know = expectedKnow(priorOf(field, index));
      const q = [
        know,
        (1 - know) * state.others[0],
        (1 - know) * state.others[1],
        (1 - know) * state.others[2],
      ] as const;
      fact.timed.forEach((timed, i) => {
        if (!timed) return;
        const u = fact.untimed[i]!;
        timed.weights = [u[0] * q[0], u[1] * q[1], u[2] * q[2], u[3] * q[3]];
        timed.steps = stepsInView(fact.fact, fact.answers[i]!.exposureMs, pace);
      });
    });
  }
  if (round.timeRounds > 0) state.times = fitTimes(data.timed, state.times, values.times, round.timeRounds);

  const made = new Map<AnswerMode, StrategyTimes>();
  const timesOf = (mode: AnswerMode): StrategyTimes => {
    let times = made.get(mode);
    if (!times) made.set(mode, (times = new StrategyTimes(state.times, mode)));
    return times;
  };
  const sums = { others: [0, 0, 0] as [number, number, number], answers: 0, lapses: 0, counted: 0, countedAll: 0 };
  const splitting = new Splitting(state.others);
  const accounts = new Map<ChildFact, FactAccounts>();
  const said = new Float64Array(9);
  for (const fact of data.facts) {
    if (fact.answers.length === 0) continue;
    const answers = fact.answers.map((r, i): Likelihood => {
      const u = fact.untimed[i]!;
      const timed = fact.timed[i];
      if (!timed) return u;
      const times = timesOf(r.answerMode);
      times.explain(timed.seconds, timed.steps, said);
      const d = [said[0]!, said[1]!, said[2]!, said[3]!] as const;
      const w = timed.weights;
      const total = d[0] * w[0] + d[1] * w[1] + d[2] * w[2] + d[3] * w[3];
      for (let s = 0; s < 4; s++) {
        const share = (d[s]! * w[s]!) / total;
        sums.lapses += share * said[4 + s]!;
        if (s > 0) sums.others[s - 1]! += share;
      }
      sums.answers++;
      if (timed.steps.all > timed.steps.fromGreater) {
        const counted = (d[2] * w[2]) / total;
        sums.counted += counted;
        sums.countedAll += counted * said[8]!;
      }
      return [d[0] * u[0], d[1] * u[1], d[2] * u[2], d[3] * u[3]];
    });
    accounts.set(fact, new FactAccounts(fact, answers, splitting));
  }
  state.accounts = accounts;
  state.sums = sums;
  settleChild(state, values);
  for (const domain of DOMAINS) fitField(state, values, domain, round.sweeps);
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
  const { mean, variance, ...shared } = values.fields[domain];
  return {
    ...shared,
    mean: Float64Array.from(mean),
    variance: state.domains[domain].stepVariance ?? Float64Array.from(variance),
  };
}

/** Solves the child's field in one domain for the current likelihoods. Changes the state. */
export function fitField(
  state: ChildState,
  values: ClassValues,
  domain: Domain,
  sweeps: number,
  start?: Marginals,
): void {
  const at = state.domains[domain];
  if (at.facts.length === 0) return;
  const shared = values.fields[domain];
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
