import { countingSteps } from '../facts/counting';
import { isNumberFact, type Fact } from '../facts/fact';
import type { Strategy } from '../latency/times';
import type { Sign } from '../record/response';
import { gamma, pick, type Random } from '../random/random';
import { retrieveShare, type SimulatedChild } from './child';

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

const hand = (child: SimulatedChild, random: Random): number => child.handSeconds - child.handTail * Math.log(1 - random());
const fetched = (child: SimulatedChild, random: Random): number => child.fetchSeconds * Math.pow(-Math.log(1 - random()), 1 / 1.7);

function counted(child: SimulatedChild, steps: number, random: Random): number {
  let seconds = 0.25 + gamma(random, 2, 0.18);
  for (let i = 0; i < steps; i++) seconds += gamma(random, 11, child.paceSeconds / 11);
  return seconds;
}

function chooseStrategy(child: SimulatedChild, fact: Fact, back: number, random: Random): Strategy {
  if (random() < retrieveShare(child, fact, back)) return 'retrieve';
  const u = random();
  const hard = isNumberFact(fact) && fact.whole > child.workingNumber + 3;
  if (u < (hard ? 0.3 : 0.08)) return 'guess';
  return u < 0.28 ? 'derive' : 'count';
}

/** Where a strategy goes wrong, it goes wrong in its own way. */
function slip(strategy: Strategy, fact: Fact, random: Random): number {
  const within = (n: number): number => Math.max(0, Math.min(10, n));
  if (strategy === 'guess') return isNumberFact(fact) && random() < 0.3 ? pick(random, [...fact.parts]) : Math.floor(11 * random());
  const size = isNumberFact(fact) ? fact.whole : fact.answer;
  const rate = { retrieve: 0.02, derive: 0.06, count: 0.03 + 0.018 * size }[strategy];
  if (random() >= rate) return fact.answer;
  return within(fact.answer + (random() < 0.75 ? pick(random, [-1, 1]) : pick(random, [-2, 2])));
}

/** One answer. `back` as in `retrieveShare`. */
export function answerFact(child: SimulatedChild, fact: Fact, back: number, random: Random): SimulatedAnswer {
  const late = random() < child.lapseRate ? 1.5 + 7 * random() : 0;
  if (fact.kind === 'match') return { given: fact.answer, responseMs: 1000 * (hand(child, random) + late), strategy: 'copy', sign: null };
  const strategy = fact.kind === 'count' ? 'count' : chooseStrategy(child, fact, back, random);
  const steps = countingSteps(fact);
  const words = fact.kind === 'count' || random() < child.countsAll ? steps.all : steps.fromGreater;
  const extra = {
    retrieve: () => fetched(child, random),
    derive: () => fetched(child, random) + 0.5 + gamma(random, 4, 0.3),
    count: () => counted(child, words, random),
    guess: () => gamma(random, 2, 0.6),
  }[strategy]();
  const seconds = hand(child, random) + extra + late;
  const sign = random() < SIGNED ? (random() < SIGN_TRUE ? SIGN_OF[strategy] : pick(random, Object.values(SIGN_OF))) : null;
  return { given: slip(strategy, fact, random), responseMs: Math.round(10_000 * seconds) / 10, strategy, sign };
}
