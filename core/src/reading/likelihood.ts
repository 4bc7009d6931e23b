import { countingSteps, type CountingSteps } from '../facts/counting';
import { isNumberFact, type Fact } from '../facts/fact';
import { STRATEGIES, type Strategy } from '../latency/times';
import { adultMarks, type Response, type Sign } from '../record/response';

/** Likelihood of one answer under each strategy, in the order of STRATEGIES. Only ratios matter. */
export type Likelihood = readonly [number, number, number, number];

/** docs/model.md, "Answer and sign". */
const RETRIEVE_ERROR = 0.03;
const DERIVE_ERROR = 0.07;
/** Share of a strategy's errors that are one off: most counting slips are. */
const ONE_OFF = { retrieve: 0.3, derive: 0.4, count: 0.7 };
/** Of saying nothing, by strategy: little of the fact, as shyness and noise do it too. */
const SILENT: Likelihood = [0.6, 0.85, 0.85, 1];
const GUESSED_EACH = 0.7 / 11;
const GUESSED_PART_BACK = 0.15;
/** How an adult marks: how often a sign is the true one, the others sharing the rest, and how often another number is marked than was said. */
export interface Marking {
  readonly trust: number;
  readonly slips: number;
}
/** Of an adult of whom nothing is known. */
export const USUAL_MARKING: Marking = { trust: 0.9, slips: 0 };

/** The strategy that a sign names. */
export const SIGN_NAMES: Record<Sign, Strategy> = {
  knew: 'retrieve',
  derived: 'derive',
  counted: 'count',
  guessed: 'guess',
};

/** The largest number a child is asked to count out of a fact: it drives how often counting goes wrong. */
const size = (fact: Fact): number => (isNumberFact(fact) ? fact.whole : fact.answer);

const countError = (fact: Fact): number => Math.min(0.35, 0.02 + 0.02 * size(fact));

/** Probability of this very answer when a strategy errs with rate `error`, of which the share `oneOff` falls on the two neighbours. */
function answered(given: number, answer: number, error: number, oneOff: number): number {
  if (given === answer) return 1 - error;
  return Math.abs(given - answer) === 1 ? (error * oneOff) / 2 : (error * (1 - oneOff)) / 8;
}

function guessed(given: number, fact: Fact): number {
  const saidBack = isNumberFact(fact) && fact.parts.includes(given) ? GUESSED_PART_BACK : 0;
  return GUESSED_EACH + saidBack;
}

/** Probability of the answer by strategy; of an answer that was wrong in a way not written down, of being wrong at all. */
export function answerLikelihood(response: Response, fact: Fact): Likelihood {
  if (response.outcome === 'none') return SILENT;
  const number = response.given === '' ? NaN : Number(response.given);
  const known = Number.isInteger(number);
  if (!known && response.outcome === 'wrong')
    return [RETRIEVE_ERROR, DERIVE_ERROR, countError(fact), 1 - guessed(fact.answer, fact)];
  const given = known ? number : fact.answer;
  return [
    answered(given, fact.answer, RETRIEVE_ERROR, ONE_OFF.retrieve),
    answered(given, fact.answer, DERIVE_ERROR, ONE_OFF.derive),
    answered(given, fact.answer, countError(fact), ONE_OFF.count),
    guessed(given, fact),
  ];
}

/** The sign that is believed: that a wrong answer was known says nothing. */
export const heededSign = ({ sign, outcome }: Response): Sign | null =>
  sign === 'knew' && outcome !== 'correct' ? null : sign;

/** Weight of the adult's sign by strategy; without a sign all ones. */
export function signLikelihood(sign: Sign | null, trust = USUAL_MARKING.trust): Likelihood {
  if (sign === null) return [1, 1, 1, 1];
  const [a, b, c, d] = STRATEGIES.map((strategy) => (SIGN_NAMES[sign] === strategy ? trust : (1 - trust) / 3));
  return [a ?? 1, b ?? 1, c ?? 1, d ?? 1];
}

/**
 * Steps a child can count of a show. A show that was covered before a count of it was through leaves only what memory of the picture holds:
 * about four items beyond those counted in view.
 */
export function stepsInView(fact: Fact, exposureMs: number | null, paceSeconds: number): CountingSteps {
  const steps = countingSteps(fact);
  if (isNumberFact(fact) || exposureMs === null) return steps;
  const most = Math.floor(exposureMs / 1000 / paceSeconds) + MEMORY_ITEMS;
  return { fromGreater: Math.min(steps.fromGreater, most), all: Math.min(steps.all, most) };
}
/** Items of a picture that stay countable after it is gone: visual short-term memory of young children holds three or four (Cowan 2001). */
const MEMORY_ITEMS = 4;

/** Chance of one particular number marked by mistake. */
const MARKED_EACH = 0.1;

/** answer × sign: what an answer says before its time is looked at. */
export function untimedLikelihood(response: Response, fact: Fact, marking = USUAL_MARKING): Likelihood {
  const slips = adultMarks(response.answerMode) ? marking.slips : 0;
  const answer = answerLikelihood(response, fact);
  const sign = signLikelihood(heededSign(response), marking.trust);
  const of = (s: 0 | 1 | 2 | 3): number => ((1 - slips) * answer[s] + slips * MARKED_EACH) * sign[s];
  return [of(0), of(1), of(2), of(3)];
}
