import { countingSteps } from '../facts/counting';
import { parseFact, type Fact } from '../facts/fact';
import { STRATEGIES, type Strategy } from '../latency/times';
import { normal, seeded } from '../random/random';
import { isEvidence } from '../reading/evidenceOf';
import { AUTOMATIC_SHARE } from '../reading/posterior';
import type { AnswerMode, Response } from '../record/response';
import { median } from '../statistics/quantile';
import { answerSeconds, chanceOf } from './answer';
import { makeChild, retrieveShare, strategyShares, type Condition, type SimulatedChild } from './child';
import { endOf, mayBeAsked, type SimulatedSitting } from './class';

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
/** Other children of the condition, made up for the prior. */
const OTHER_CHILDREN = 600;

/** What a condition's children know, drawn from the simulator itself: the prior of a judge who is told. */
export class Told {
  readonly #children: readonly SimulatedChild[];
  constructor(readonly condition: Condition) {
    this.#children = Array.from({ length: OTHER_CHILDREN }, (_, i) => makeChild(`${i}`, condition, seeded(90_001 + i)));
  }
  /** Those whom a teacher would ask the fact. */
  asked(fact: Fact): readonly SimulatedChild[] {
    return this.#children.filter((child) => mayBeAsked(child, fact));
  }
}

/**
 * Reference judge of one child who is told their true time distributions, the adult's true ways of marking, and how the simulator draws what children know and how it changes, and who looks at one fact at a
 * time. The posterior is a sum over a few hundred other children, weighted by how well their knowledge of this fact, day by day, explains the answers. Densities of times are estimated
 * from draws of the child's own, smoothed on the log scale.
 */
export class InformedJudge {
  readonly #logTimes = new Map<string, Float64Array>();

  constructor(
    private readonly told: Told,
    private readonly sittingOf: (r: Response) => SimulatedSitting,
  ) {}

  #times({ as, markedBy, device }: SimulatedSitting, fact: Fact, strategy: Strategy, mode: AnswerMode): Float64Array {
    const { fromGreater, all } = countingSteps(fact);
    const key = `${markedBy} ${device} ${as.handSeconds} ${strategy} ${mode} ${strategy === 'count' ? `${fromGreater} ${all}` : ''}`;
    let times = this.#logTimes.get(key);
    if (!times) {
      const random = seeded(key.length * 7919 + fromGreater * 31 + all);
      const { sway, tires } = as;
      const tempo = (): number =>
        (sway > 0 ? Math.exp(sway * normal(random)) : 1) * (tires > 0 ? 1 + tires * random() : 1);
      times = Float64Array.from({ length: SAMPLES }, () =>
        Math.log(answerSeconds(as, fact, strategy, mode, tempo(), random)),
      );
      this.#logTimes.set(key, times);
    }
    return times;
  }

  #likelihood(fact: Fact, r: Response): number[] {
    const sitting = this.sittingOf(r);
    const at = r.responseMs === null ? null : Math.log(r.responseMs / 1000);
    return STRATEGIES.map((strategy) => {
      const said = chanceOf(sitting.as, fact, strategy, Number(r.given), r.sign);
      if (at === null) return said;
      const near = this.#times(sitting, fact, strategy, r.answerMode).reduce(
        (sum, x) => sum + Math.exp(-0.5 * ((at - x) / WIDTH) ** 2),
        0,
      );
      return said * (near + 1e-3);
    });
  }

  /** Probability that the fact is automatic at the end. @param answers to this fact, any number */
  judge(factText: string, answers: readonly Response[]): number {
    const fact = parseFact(factText);
    const seen = answers
      .filter(isEvidence)
      .map((r) => ({ moment: this.sittingOf(r).moment, said: this.#likelihood(fact, r) }));
    const end = endOf(this.told.condition);
    let all = 0;
    let automatic = 0;
    for (const other of this.told.asked(fact)) {
      const weight = seen.reduce((product, { moment, said }) => {
        const shares = strategyShares(other, fact, moment);
        return product * said.reduce((sum, l, s) => sum + l * shares[s]!, 0);
      }, 1);
      all += weight;
      if (retrieveShare(other, fact, end) >= AUTOMATIC_SHARE) automatic += weight;
    }
    return all > 0 ? automatic / all : 0.5;
  }
}
