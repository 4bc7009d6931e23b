import { countingSteps } from '../facts/counting';
import { parseFact, type Fact } from '../facts/fact';
import { median } from '../statistics/quantile';
import { STRATEGIES, type Strategy } from '../latency/times';
import { seeded } from '../random/random';
import type { AnswerMode, Response } from '../record/response';
import { isEvidence } from '../reading/evidenceOf';
import { gridNormal } from '../reading/field';
import { untimedLikelihood, type Likelihood } from '../reading/likelihood';
import { accountOf, factPosterior, NEWEST, Splitting, USUAL_SCATTER, Z_GRID, type Others } from '../reading/posterior';
import { answerSeconds } from './answer';
import type { SimulatedChild } from './child';

/** The usual rule of thumb, yes or no: of the last five unaided answers four are right, with a median within three seconds. */
export function usualRule(answers: readonly Response[]): number {
  const last = answers.filter(isEvidence).slice(-5);
  if (last.length === 0) return 0;
  const right = last.filter((r) => r.outcome === 'correct');
  const middle = median(right.flatMap((r) => (r.responseMs === null ? [] : [r.responseMs])));
  return Number(right.length / last.length >= 0.8 && middle !== null && middle <= 3000);
}

const SAMPLES = 500;
/** Width of the smoothing of log times, in log units. */
const WIDTH = 0.12;
const OTHERS: Others = [0.25, 0.6, 0.15];

/**
 * Reference judge with every child's true time distributions, one fact at a time, and a prior of one half: what the clock alone can give. The densities are estimated from draws of the child's own times, smoothed on the log scale.
 */
export class InformedJudge {
  readonly #densities = new Map<string, Float64Array>();
  readonly #prior = new Float64Array(Z_GRID.length);

  constructor(private readonly child: SimulatedChild) {
    gridNormal(0.3, 9, this.#prior);
  }

  #logTimes(fact: Fact, strategy: Strategy, mode: AnswerMode): Float64Array {
    const { fromGreater, all } = countingSteps(fact);
    const key = `${strategy} ${mode} ${strategy === 'count' ? `${fromGreater} ${all}` : ''}`;
    let times = this.#densities.get(key);
    if (!times) {
      const random = seeded(key.length * 7919 + fromGreater * 31 + all);
      times = Float64Array.from({ length: SAMPLES }, () =>
        Math.log(answerSeconds(this.child, fact, strategy, mode, random)),
      );
      this.#densities.set(key, times);
    }
    return times;
  }

  /** Probability that the fact is automatic. */
  judge(factText: string, answers: readonly Response[]): number {
    const fact = parseFact(factText);
    const likelihoods = answers
      .filter(isEvidence)
      .slice(-NEWEST)
      .map((r): Likelihood => {
        const u = untimedLikelihood(r, fact);
        if (r.responseMs === null) return u;
        const at = Math.log(r.responseMs / 1000);
        const density = STRATEGIES.map(
          (s) =>
            this.#logTimes(fact, s, r.answerMode).reduce(
              (sum, x) => sum + Math.exp(-0.5 * ((at - x) / WIDTH) ** 2),
              0,
            ) + 1e-3,
        );
        return [u[0] * density[0]!, u[1] * density[1]!, u[2] * density[2]!, u[3] * density[3]!];
      });
    return factPosterior(accountOf(likelihoods, new Splitting(OTHERS)), USUAL_SCATTER, OTHERS, this.#prior).pAutomatic;
  }
}
