import { countingSteps } from '../facts/counting';
import { isNumberFact, type Fact } from '../facts/fact';
import type { Strategy } from '../latency/times';
import type { AnswerMode, Sign } from '../record/response';
import { gamma, pick, type Random } from '../random/random';
import { strategyShares, type Moment, type SimulatedChild } from './child';

/** What a simulated child did with one question. */
export interface SimulatedAnswer {
  readonly given: number;
  readonly responseMs: number;
  readonly strategy: Strategy | 'copy';
  /** What an adult who watched closely would have marked, when one did. */
  readonly sign: Sign | null;
}

const SIGN_OF: Record<Strategy, Sign> = { retrieve: 'knew', derive: 'derived', count: 'counted', guess: 'guessed' };

const fetched = (child: SimulatedChild, random: Random): number =>
  child.fetchSeconds * Math.pow(-Math.log(1 - random()), 1 / 1.7);

function counted(child: SimulatedChild, steps: number, random: Random): number {
  let seconds = 0.25 + gamma(random, 2, 0.18);
  for (let i = 0; i < steps; i++) seconds += gamma(random, 11, child.paceSeconds / 11);
  return seconds;
}

/** Hand time as a multiple of tapping's. */
const MODE_HAND: Readonly<Record<AnswerMode, number>> = {
  tap: 1,
  spoken: 1,
  build: 3,
  show: 1.2,
  write: 1.9,
  pad: 1.15,
  voice: 0.7,
};

/** One time, in seconds, of answering a fact in a way: everything a clock would see. */
export function answerSeconds(
  child: SimulatedChild,
  fact: Fact,
  strategy: Strategy | 'copy',
  mode: AnswerMode,
  tempo: number,
  random: Random,
): number {
  const late = random() < child.lapseRate ? 1.5 + 7 * random() : 0;
  const hand =
    MODE_HAND[mode] * (child.handSeconds - child.handTail * Math.log(1 - random())) +
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
  return Math.max(0.25, (hand + extra) * tempo * drawn + late);
}

function chooseStrategy(child: SimulatedChild, fact: Fact, moment: Moment, random: Random): Strategy {
  const chance = random();
  const [retrieve, derive, count, guess] = strategyShares(child, fact, moment);
  if (chance < retrieve) return 'retrieve';
  const u = random() * (derive + count + guess);
  if (u < guess) return 'guess';
  return u < guess + derive ? 'derive' : 'count';
}

/** How often a strategy goes wrong, other than guessing. */
const slipRate = (strategy: Exclude<Strategy, 'guess'>, fact: Fact): number =>
  ({ retrieve: 0.02, derive: 0.06, count: 0.03 + 0.018 * (isNumberFact(fact) ? fact.whole : fact.answer) })[strategy];
const ONE_OFF = 0.75;
const SAID_BACK = 0.3;

/** Where a strategy goes wrong, it goes wrong in its own way. */
function slip(strategy: Strategy, fact: Fact, random: Random): number {
  const within = (n: number): number => Math.max(0, Math.min(10, n));
  if (strategy === 'guess')
    return isNumberFact(fact) && random() < SAID_BACK ? pick(random, [...fact.parts]) : Math.floor(11 * random());
  if (random() >= slipRate(strategy, fact)) return fact.answer;
  return within(fact.answer + (random() < ONE_OFF ? pick(random, [-1, 1]) : pick(random, [-2, 2])));
}

/** Chance of a number said and of a sign, given the strategy: what `answerFact` draws from, for a judge who is told. Slips that leave the range from 0 to 10 are not looked at. */
export function chanceOf(
  child: SimulatedChild,
  fact: Fact,
  strategy: Strategy,
  given: number,
  sign: Sign | null,
): number {
  const { signs, rightly, slips } = child.adult;
  const said = (n: number): number => {
    if (strategy === 'guess') {
      if (!isNumberFact(fact)) return 1 / 11;
      return (1 - SAID_BACK) / 11 + (SAID_BACK * fact.parts.filter((part) => part === n).length) / 2;
    }
    const rate = slipRate(strategy, fact);
    const away = Math.abs(n - fact.answer);
    if (away === 0) return 1 - rate;
    return away === 1 ? (rate * ONE_OFF) / 2 : away === 2 ? (rate * (1 - ONE_OFF)) / 2 : 0;
  };
  const marked = (1 - slips) * said(given) + (slips / 2) * (said(given - 1) + said(given + 1));
  if (sign === null) return marked * (1 - signs);
  return marked * signs * ((1 - rightly) / 4 + (SIGN_OF[strategy] === sign ? rightly : 0));
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
  const responseMs = Math.round(10_000 * answerSeconds(child, fact, strategy, mode, moment.tempo, random)) / 10;
  const { signs, rightly, slips } = child.adult;
  const marked = (said: number): number => (slips > 0 && random() < slips ? misheard(said, random) : said);
  if (strategy === 'copy') return { given: marked(fact.answer), responseMs, strategy, sign: null };
  const sign =
    random() < signs ? (random() < rightly ? SIGN_OF[strategy] : pick(random, Object.values(SIGN_OF))) : null;
  return { given: marked(slip(strategy, fact, random)), responseMs, strategy, sign };
}

const misheard = (given: number, random: Random): number => (given === 0 ? 1 : given + pick(random, [-1, 1]));
