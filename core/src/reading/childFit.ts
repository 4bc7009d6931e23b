import { parseFact, type Fact } from '../facts/fact';
import { fitTimes, startTimes, type Timed } from '../latency/fit';
import { StrategyTimes, type ChildTimes } from '../latency/times';
import type { AnswerMode, Response } from '../record/response';
import type { ClassValues } from './classValues';
import { FORGETTINGS, GROWTHS } from './classValues';
import { isEvidence, isJudged } from './evidenceOf';
import { domainOf, FEATURES, isStep, placeFact, type Domain, type PlacedFact } from './features';
import { gridNormal, inferField, noSites, type Field, type Sites } from './field';
import { stepsInView, untimedLikelihood, type Likelihood } from './likelihood';
import { accountOf, likelihoodOn, NEWEST, shifted, Splitting, USUAL_KAPPA, Z_GRID, type Account, type Others } from './posterior';

const DAY_MS = 86_400_000;
/** Longest span without any answer that is no holiday, in days. */
const LONGEST_BREAK_DAYS = 9;
/** The span over which growth is counted, in days. */
const GROWTH_DAYS = 42;
/** Ages in days at which answers are set apart when a child's knowing changes: within a block it is taken to be the same. */
const BLOCK_EDGES = [5, 12, 21, 35] as const;
/** Newest timed answers that the fit of a child's times reads: more add time, not knowledge. */
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
  /** What each answer and its sign say before the time is looked at. */
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

/** A child's responses, sorted out once. */
export interface ChildData {
  readonly child: string;
  readonly facts: readonly ChildFact[];
  readonly timed: readonly Timed[];
  readonly copies: Readonly<Partial<Record<AnswerMode, number>>>;
  readonly counts: number;
  /** The child was away for long, and answered before and after. */
  readonly hadBreak: boolean;
}

function blocksOf(answers: readonly Response[], asOf: number, back: number | null): Block[] {
  const age = (r: Response): number => Math.max(0, (asOf - r.shownAt) / DAY_MS);
  const key = (r: Response): string => `${BLOCK_EDGES.filter((edge) => age(r) >= edge).length} ${back !== null && r.shownAt < back}`;
  const blocks: Block[] = [];
  for (let from = 0, to = 0; from < answers.length; from = to) {
    let sum = 0;
    while (to < answers.length && key(answers[to]!) === key(answers[from]!)) sum += age(answers[to++]!);
    blocks.push({ from, to, ageDays: sum / (to - from), beforeBreak: back !== null && answers[from]!.shownAt < back });
  }
  return blocks;
}

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
export function childData(child: string, responses: readonly Response[], asOf: number, alsoFacts: readonly string[], newest = NEWEST): ChildData {
  const byFact = new Map<string, Response[]>();
  const measures: Response[] = [];
  const copies: Partial<Record<AnswerMode, number>> = {};
  for (const r of responses) {
    if (isJudged(r)) {
      const list = byFact.get(r.fact);
      if (list) list.push(r);
      else byFact.set(r.fact, [r]);
    } else if ((r.kind === 'match' || r.kind === 'count') && isEvidence(r) && r.responseMs !== null && r.responseMs > 0) {
      if (r.kind === 'match') copies[r.answerMode] = (copies[r.answerMode] ?? 0) + 1;
      measures.push(r);
    }
  }
  const baseline = measures.slice(-NEWEST_TIMED / 2).map((r): Timed => {
    const steps = r.kind === 'count' ? parseFact(r.fact).answer : 0;
    return {
      what: r.kind === 'match' ? 'copy' : 'count',
      mode: r.answerMode,
      seconds: (r.responseMs ?? 0) / 1000,
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
        untimed: answers.map((r) => untimedLikelihood(r, fact)),
        timed: answers.map((r) =>
          r.responseMs === null || r.responseMs <= 0
            ? null
            : { what: 'fact', mode: r.answerMode, seconds: r.responseMs / 1000, steps: { fromGreater: 0, all: 0 }, weights: [0.25, 0.25, 0.25, 0.25] },
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

/** How a child's knowing changed, as choices in KAPPAS, GROWTHS and FORGETTINGS. */
export interface Shape {
  readonly kappa: number;
  readonly growth: number;
  readonly forgetting: number;
}

/** What a fact's answers say together, and, worked out only when a change is thought of, what each block of them says. */
class FactAccounts {
  readonly whole: Account;
  #blocks: readonly Account[] | null = null;

  constructor(
    private readonly fact: ChildFact,
    private readonly answers: readonly Likelihood[],
    private readonly splitting: Splitting,
  ) {
    this.whole = accountOf(answers, splitting);
  }
  get blocks(): readonly Account[] {
    const { blocks } = this.fact;
    return (this.#blocks ??= blocks.length === 1 ? [this.whole] : blocks.map(({ from, to }) => accountOf(this.answers.slice(from, to), this.splitting)));
  }
}

/** What is known of one child while it is fitted. */
export interface ChildState {
  times: ChildTimes;
  others: Others;
  shape: Shape;
  /** Probabilities of the choices of shape given the child's answers, for the class. */
  shapes: { readonly kappas: readonly number[]; readonly growths: readonly number[]; readonly forgettings: readonly number[] } | null;
  domains: Record<Domain, { readonly facts: readonly ChildFact[]; sites: Sites; field: Field | null; stepVariance: Float64Array | null }>;
  /** Per fact, in the order of the data's facts: what all its answers say together, and what each block of them says. */
  accounts: ReadonlyMap<ChildFact, FactAccounts>;
  /** E[times a strategy other than retrieving was used], how often anything was, lapses, counted answers, and those that counted all: for the class. */
  sums: { others: readonly [number, number, number]; answers: number; lapses: number; counted: number; countedAll: number };
}

const DOMAINS: readonly Domain[] = ['number', 'seeing'];

export function freshState(data: ChildData, values: ClassValues): ChildState {
  const of = (domain: Domain) => {
    const facts = data.facts.filter((f) => f.domain === domain);
    return { facts, sites: noSites(facts.length), field: null, stepVariance: null };
  };
  return {
    times: { ...startTimes(data.timed, values.times), lapseRate: values.lapseRate, lapseSeconds: values.lapseSeconds, countsAll: values.countsAll },
    others: values.others,
    shape: { kappa: USUAL_KAPPA, growth: 0, forgetting: 0 },
    shapes: null,
    domains: { number: of('number'), seeing: of('seeing') },
    accounts: new Map(),
    sums: { others: [0, 0, 0], answers: 0, lapses: 0, counted: 0, countedAll: 0 },
  };
}

const NOTHING = accountOf([], new Splitting([0.3, 0.4, 0.3]));

/**
 * What a fact's answers say under a shape: the account of those given with today's shares, and the likelihood of the others at every z of today, null when there
 * are none. While nothing changes all answers are today's. Else each block of like age was given with shares of its own, around a z that lay lower by the
 * growth since, and higher by what a holiday took.
 */
export function saidBy(
  fact: ChildFact,
  accounts: ChildState['accounts'],
  { kappa, growth, forgetting }: Shape,
): { today: Account; before: Float64Array | null } {
  const own = accounts.get(fact);
  if (!own) return { today: NOTHING, before: null };
  if (GROWTHS[growth] === 0 && FORGETTINGS[forgetting] === 0) return { today: own.whole, before: null };
  let today = NOTHING;
  let before: Float64Array | null = null;
  fact.blocks.forEach(({ ageDays, beforeBreak }, b) => {
    const account = own.blocks[b]!;
    if (ageDays < BLOCK_EDGES[0] && !(beforeBreak && FORGETTINGS[forgetting]! > 0)) {
      today = account;
      return;
    }
    const shift = (GROWTHS[growth]! * ageDays) / GROWTH_DAYS - (beforeBreak ? FORGETTINGS[forgetting]! : 0);
    const said = shifted(likelihoodOn(account, kappa), shift);
    before = before === null ? said : before.map((x, g) => x * said[g]!);
  });
  return { today, before };
}

/** The same as one likelihood on the grid. */
export function evidenceOn(fact: ChildFact, accounts: ChildState['accounts'], shape: Shape): Float64Array {
  const { today, before } = saidBy(fact, accounts, shape);
  const own = likelihoodOn(today, shape.kappa);
  return before === null ? own : own.map((x, g) => x * before[g]!);
}

const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
const KNOW = Z_GRID.map(logistic);

/** Expected share retrieved under weights on the grid. */
function expectedKnow(prior: Float64Array): number {
  let total = 0;
  let know = 0;
  for (let g = 0; g < prior.length; g++) {
    total += prior[g]!;
    know += prior[g]! * KNOW[g]!;
  }
  return know / total;
}

/** Prior weights of z for a fact from everything but its own answers. */
export function priorOf(field: Field | null, index: number): Float64Array {
  const out = new Float64Array(Z_GRID.length);
  gridNormal(field?.cavityMean[index] ?? 0, field?.cavityVariance[index] ?? 6, out);
  return out;
}

/** Sum over facts of the log-probability of their answers given everything else, under a shape. */
function predictive(state: ChildState, shape: Shape): number {
  let sum = 0;
  for (const domain of DOMAINS) {
    const { facts, field } = state.domains[domain];
    facts.forEach((fact, i) => {
      if (fact.answers.length === 0) return;
      const prior = priorOf(field, i);
      const e = evidenceOn(fact, state.accounts, shape);
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

/** Log-probability that a change beyond this one is tried at all: a likelihood that falls this far at the first step does not come back at the second. */
const GIVE_UP = -4;

/**
 * The shape of a child's knowledge: whether it grew, whether it lapsed over a holiday, how nearly all or nothing facts are; each by evidence, one after the
 * other. A change moves every fact, so the field is fitted anew under each.
 */
export function chooseShape(state: ChildState, data: ChildData, values: ClassValues, sweeps: number): void {
  const tried = (priors: readonly number[], shape: (i: number) => Shape): number[] => {
    const now = state.domains;
    const logs: number[] = [];
    const kept: ChildState['domains'][] = [];
    priors.forEach((prior, i) => {
      if (i > 1 && logs[i - 1]! < logs[0]! + GIVE_UP) return void logs.push(-Infinity);
      state.domains = { number: withSites(now.number), seeing: withSites(now.seeing) };
      state.shape = shape(i);
      for (const domain of DOMAINS) fitField(state, values, domain, sweeps);
      kept.push(state.domains);
      logs.push(Math.log(prior) + predictive(state, state.shape));
    });
    const shares = normalised(logs);
    const chosen = likeliest(shares);
    state.shape = shape(chosen);
    state.domains = kept[chosen]!;
    return shares;
  };
  const start = state.shape;
  const growths = tried(values.growths, (growth) => ({ ...start, growth }));
  const grown = state.shape;
  const forgettings = data.hadBreak ? tried(values.forgettings, (forgetting) => ({ ...grown, forgetting })) : values.forgettings;
  const changed = state.shape;
  const kappas = normalised(values.kappas.map((prior, kappa) => Math.log(prior) + predictive(state, { ...changed, kappa })));
  state.shape = { ...changed, kappa: likeliest(kappas) };
  state.shapes = { growths, forgettings, kappas };
}

const withSites = (domain: ChildState['domains'][Domain]): ChildState['domains'][Domain] => ({
  ...domain,
  sites: { precision: domain.sites.precision.slice(), shift: domain.sites.shift.slice() },
});

/** Weight of a class's step against the child's own evidence for it: small, so that one child may have one large step and nine of none. */
const STEP_TRUST = 1;

/** One round for one child with its class frozen: its times, what each answer says, its field. Changes the state. */
export function updateChild(state: ChildState, data: ChildData, values: ClassValues, round: { readonly timeRounds: number; readonly sweeps: number }): void {
  const { pace } = state.times;
  for (const domain of DOMAINS) {
    const { facts, field } = state.domains[domain];
    facts.forEach((fact, index) => {
      if (fact.answers.length === 0) return;
      const know = expectedKnow(priorOf(field, index));
      const q = [know, (1 - know) * state.others[0], (1 - know) * state.others[1], (1 - know) * state.others[2]] as const;
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
  const hidden = new Float64Array(5);
  for (const fact of data.facts) {
    if (fact.answers.length === 0) continue;
    const answers = fact.answers.map((r, i): Likelihood => {
      const u = fact.untimed[i]!;
      const timed = fact.timed[i];
      if (!timed) return u;
      const times = timesOf(r.answerMode);
      const d = times.densities(timed.seconds, timed.steps);
      const w = timed.weights;
      const total = d[0] * w[0] + d[1] * w[1] + d[2] * w[2] + d[3] * w[3];
      times.hidden(timed.seconds, timed.steps, hidden);
      for (let s = 0; s < 4; s++) {
        const share = (d[s]! * w[s]!) / total;
        sums.lapses += share * hidden[s]!;
        if (s > 0) sums.others[s - 1]! += share;
      }
      sums.answers++;
      if (timed.steps.all > timed.steps.fromGreater) {
        const counted = (d[2] * w[2]) / total;
        sums.counted += counted;
        sums.countedAll += counted * hidden[4]!;
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

/** The child's own rates, between its answers and its class's (worth so many answers). */
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

/** The child's field in one domain from what its answers say now. Changes the state. */
export function fitField(state: ChildState, values: ClassValues, domain: Domain, sweeps: number): void {
  const at = state.domains[domain];
  if (at.facts.length === 0) return;
  const shared = values.fields[domain];
  const evidence = at.facts.map((fact) => evidenceOn(fact, state.accounts, state.shape));
  const variance = at.stepVariance ?? Float64Array.from(shared.variance);
  const prior = {
    mean: Float64Array.from(shared.mean),
    variance,
    familyVariance: shared.familyVariance,
    operationVariance: shared.operationVariance,
    ownVariance: shared.ownVariance,
  };
  const field = inferField(
    prior,
    at.facts.map((f) => f.placed),
    evidence,
    at.sites,
    sweeps,
  );
  at.field = field;
  // Heavy tails for steps (automatic relevance determination): a step that the answers ask for is let be large.
  at.stepVariance = Float64Array.from(FEATURES[domain], (feature, i) => {
    const own = shared.variance[i]!;
    if (!isStep(feature)) return own;
    const square = (field.weightMean[i]! - shared.mean[i]!) ** 2 + field.weightVariance[i]!;
    return Math.max(0.02, (STEP_TRUST * own + square) / (STEP_TRUST + 1));
  });
}
