import { countingSteps } from '../facts/counting';
import { isNumberFact, type Fact } from '../facts/fact';
import type { Strategy } from '../latency/times';
import type { AnswerMode, Sign } from '../record/response';
import { gamma, pick, type Random } from '../random/random';
import { retrieveShare, type Moment, type SimulatedChild } from './child';

/** What a simulated child did with one question. */
export interface SimulatedAnswer {
  readonly given: number;
  readonly responseMs: number;
  readonly strategy: Strategy | 'copy';
  /** What an adult who watched closely would have marked, when one did. */
  readonly sign: Sign | null;
}

const SIGN_OF: Record<Strategy, Sign> = { retrieve: 'knew', derive: 'derived', count: 'counted', guess: 'guessed' };
/** How often the adult marks a sign, and how often it is the true one. */
const SIGNED = 0.12;
const SIGN_TRUE = 0.88;

const fetched = (child: SimulatedChild, random: Random): number =>
  child.fetchSeconds * Math.pow(-Math.log(1 - random()), 1 / 1.7);

function counted(child: SimulatedChild, steps: number, random: Random): number {
  let seconds = 0.25 + gamma(random, 2, 0.18);
  for (let i = 0; i < steps; i++) seconds += gamma(random, 11, child.paceSeconds / 11);
  return seconds;
}

/** One time, in seconds, of answering a fact in a way: everything a clock would see. */
export function answerSeconds(
  child: SimulatedChild,
  fact: Fact,
  strategy: Strategy | 'copy',
  mode: AnswerMode,
  random: Random,
): number {
  const late = random() < child.lapseRate ? 1.5 + 7 * random() : 0;
  const hand =
    child.handSeconds -
    child.handTail * Math.log(1 - random()) +
    (mode === 'spoken' ? gamma(random, 3, child.adultLag / 3) - 0.3 : 0);
  const steps = countingSteps(fact);
  const words = fact.kind === 'count' || random() < child.countsAll ? steps.all : steps.fromGreater;
  const extra = {
    copy: () => 0,
    retrieve: () => fetched(child, random),
    derive: () => fetched(child, random) + 0.5 + gamma(random, 4, 0.3),
    count: () => counted(child, words, random),
    guess: () => gamma(random, 2, 0.6),
  }[strategy]();
  const drawn = random() < child.drawnOut ? 1 + gamma(random, 1, 0.8) : 1;
  return Math.max(0.25, (hand + extra) * drawn + late);
}

function chooseStrategy(child: SimulatedChild, fact: Fact, moment: Moment, random: Random): Strategy {
  if (random() < retrieveShare(child, fact, moment)) return 'retrieve';
  const u = random();
  const hard = isNumberFact(fact) && fact.whole > child.workingNumber + 3;
  if (u < (hard ? 0.3 : 0.08)) return 'guess';
  return u < 0.28 ? 'derive' : 'count';
}

/** Where a strategy goes wrong, it goes wrong in its own way. */
function slip(strategy: Strategy, fact: Fact, random: Random): number {
  const within = (n: number): number => Math.max(0, Math.min(10, n));
  if (strategy === 'guess')
    return isNumberFact(fact) && random() < 0.3 ? pick(random, [...fact.parts]) : Math.floor(11 * random());
  const size = isNumberFact(fact) ? fact.whole : fact.answer;
  const rate = { retrieve: 0.02, derive: 0.06, count: 0.03 + 0.018 * size }[strategy];
  if (random() >= rate) return fact.answer;
  return within(fact.answer + (random() < 0.75 ? pick(random, [-1, 1]) : pick(random, [-2, 2])));
}

/** One answer. */
export function answerFact(
  child: SimulatedChild,
  fact: Fact,
  mode: AnswerMode,
  moment: Moment,
  random: Random,
): SimulatedAnswer {
  const strategy =
    fact.kind === 'match' ? 'copy' : fact.kind === 'count' ? 'count' : chooseStrategy(child, fact, moment, random);
  const responseMs = Math.round(10_000 * answerSeconds(child, fact, strategy, mode, random)) / 10;
  if (strategy === 'copy') return { given: fact.answer, responseMs, strategy, sign: null };
  const sign =
    random() < SIGNED ? (random() < SIGN_TRUE ? SIGN_OF[strategy] : pick(random, Object.values(SIGN_OF))) : null;
  return { given: slip(strategy, fact, random), responseMs, strategy, sign };
}
