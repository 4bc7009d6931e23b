import { tooShortToTell } from '../facts/counting';
import { parseFact, type Fact } from '../facts/fact';
import { CLASS_BEFORE, type FieldValues } from '../reading/classValues';
import { domainOf, FEATURES, placeFact, type Domain } from '../reading/features';
import { noSites, NormalField } from '../reading/normalField';
import { USUAL_SCATTER } from '../reading/posterior';
import type { Offered } from './offer';
import type { Gain } from './propose';

/** How much of what an answer could tell of the share retrieved its time and rightness do tell; and how much of that is left where counting is over too soon. */
const TELLS = 0.8;
const TELLS_WHEN_SHORT = 0.3;
/** Share retrieved, as far as it goes by the probability of knowing alone. */
const LEAST_KNOW = 0.1;
const MOST_KNOW = 0.9;

/**
 * However sure the judgement is of a fact, it is doubted as much as one of probability 0.91: what it is wrongly sure of would never be asked again. Chosen among 0, 0.05, 0.1, 0.2 and 0.5 on two seeds of six
 * conditions (docs/model.md, "Choosing questions").
 */
const LEAST_DOUBT = 0.1;

/** Precision with which one answer tells the log-odds of a fact: Fisher's information of a share, less what is lost. */
function precisionOf(fact: Fact, p: number): number {
  const know = LEAST_KNOW + (MOST_KNOW - LEAST_KNOW) * p;
  return TELLS * know * (1 - know) * (tooShortToTell(fact) ? TELLS_WHEN_SHORT : 1);
}

/** The field over these facts: made once for children who are offered the same. */
function fieldOver(facts: readonly Fact[], domain: Domain): NormalField {
  const name = facts.map(({ text }) => text).join(' ');
  let kept = FIELDS.get(domain);
  if (kept?.name !== name) {
    kept = { name, field: new NormalField(facts.map(placeFact), FEATURES[domain].length) };
    FIELDS.set(domain, kept);
  }
  return kept.field;
}
const FIELDS = new Map<Domain, { readonly name: string; readonly field: NormalField }>();

/** The facts of one domain: what is uncertain in them together. */
class Together {
  /** Covariance of the facts' log-odds, row by row, without their own deviations. */
  readonly #covariance: Float64Array;
  readonly #own: Float64Array;
  readonly #noise: Float64Array;
  /** Of each fact, what its doubt is worth: the squared slope of its probability in its log-odds, times its variance. */
  readonly #doubt: Float64Array;
  readonly #variance: Float64Array;

  constructor(
    domain: Domain,
    private readonly offered: readonly Offered[],
    values: FieldValues,
  ) {
    const facts = offered.map(({ fact }) => parseFact(fact));
    const field = fieldOver(facts, domain);
    const sites = noSites(facts.length);
    const own = values.ownVariance;
    this.#own = new Float64Array(facts.length);
    this.#noise = new Float64Array(facts.length);
    facts.forEach((fact, i) => {
      const precision = precisionOf(fact, offered[i]!.p);
      const answers = offered[i]!.reading?.responses ?? 0;
      sites.precision[i] = 1 / (own + 1 / (answers * precision));
      this.#own[i] = 1 / (1 / own + answers * precision);
      this.#noise[i] = 1 / precision;
    });
    field.solve(
      { ...values, mean: Float64Array.from(values.mean), variance: Float64Array.from(values.variance) },
      sites,
    );
    this.#covariance = field.covariance();
    this.#variance = Float64Array.from(facts, (_, i) => this.#covariance[i * facts.length + i]! + this.#own[i]!);
    this.#doubt = Float64Array.from(offered, ({ p }) => Math.max(LEAST_DOUBT, (4 * p * (1 - p)) ** 2));
  }

  /** Expected fall of the summed Brier score over all these facts when one is asked once more, in its own units. */
  gain(i: number): number {
    const n = this.offered.length;
    const c = this.#covariance;
    const own = this.#own[i]!;
    const all = c[i * n + i]! + own + this.#noise[i]!;
    let sum = 0;
    for (let g = 0; g < n; g++) {
      const shared = c[i * n + g]! + (g === i ? own : 0);
      sum += (this.#doubt[g]! * shared * shared) / this.#variance[g]!;
    }
    return sum / all;
  }

  /** The same facts once this one has been asked: what its answer will say of the others is known no more, only how much. */
  ask(i: number): void {
    const n = this.offered.length;
    const c = this.#covariance;
    const all = c[i * n + i]! + this.#own[i]! + this.#noise[i]!;
    const row = c.slice(i * n, (i + 1) * n);
    for (let f = 0; f < n; f++) for (let g = 0; g < n; g++) c[f * n + g]! -= (row[f]! * row[g]!) / all;
    this.#own[i] = 1 / (1 / this.#own[i]! + 1 / this.#noise[i]!);
  }
}

/**
 * What a question is expected to tell: the fall of the Brier score, summed over all facts that an answer moves (family, level, neighbours), Σ φ_g² cov(f, g)² / (var_f + 1/τ_f); for a whole session, as
 * each question chosen leaves less for those like it (Gaussian process, greedy choice with rank-one updates; docs/model.md, "Choosing questions").
 * @param offered what may be asked, with how likely each is known; those asked already count by their answers
 */
export class ExpectedGain implements Gain {
  readonly #places = new Map<Offered, { readonly among: Together; readonly at: number }>();

  constructor(offered: readonly Offered[]) {
    for (const domain of ['number', 'seeing'] as const) {
      const own = offered.filter(({ fact }) => domainOf(parseFact(fact)) === domain);
      if (own.length === 0) continue;
      const among = new Together(domain, own, CLASS_BEFORE.fields[USUAL_SCATTER]![domain]);
      own.forEach((one, at) => this.#places.set(one, { among, at }));
    }
  }
  of(offered: Offered): number {
    const { among, at } = this.#places.get(offered)!;
    return among.gain(at);
  }
  ask(offered: Offered): void {
    const { among, at } = this.#places.get(offered)!;
    among.ask(at);
  }
}

/** What the questions on offer tell, for a plan that is to find out what is known. */
export const expectedGain = (offer: readonly Offered[]): Gain => new ExpectedGain(offer);
