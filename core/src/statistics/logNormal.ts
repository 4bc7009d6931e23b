/** A log-normal time: `mu` and `sigma` are mean and standard deviation of ln(seconds). */
interface LogNormal {
  readonly mu: number;
  readonly sigma: number;
}

/** Mean and variance of a time, in seconds and seconds squared. */
export interface Moments {
  readonly mean: number;
  readonly variance: number;
}

const ROOT_TWO_PI = Math.sqrt(2 * Math.PI);

/** Moments of a log-normal time with this median (seconds) and this standard deviation of its logarithm. */
export function momentsOf(median: number, sigma: number): Moments {
  const mean = median * Math.exp((sigma * sigma) / 2);
  return { mean, variance: mean * mean * (Math.exp(sigma * sigma) - 1) };
}

/** Moments of a sum of independent times. */
export const sumOf = (...parts: readonly Moments[]): Moments => ({
  mean: parts.reduce((sum, p) => sum + p.mean, 0),
  variance: parts.reduce((sum, p) => sum + p.variance, 0),
});

/**
 * The one log-normal with these moments (Fenton and Wilkinson 1960): sigma² = ln(1 + variance / mean²), mu = ln mean − sigma² / 2.
 * @throws RangeError unless the mean is positive
 */
export function fentonWilkinson({ mean, variance }: Moments): LogNormal {
  if (!(mean > 0)) throw new RangeError('a time needs a positive mean');
  const s2 = Math.log(1 + variance / (mean * mean));
  return { mu: Math.log(mean) - s2 / 2, sigma: Math.sqrt(s2) };
}

/** Median of the log-normal time with these moments (seconds), in milliseconds. */
export const medianMs = (moments: Moments): number => 1000 * Math.exp(fentonWilkinson(moments).mu);

/** exp(−z²/2) at z = i / BELL_STEPS: asked for thousands of times a child. */
const BELL_STEPS = 256;
const FARTHEST = 8;
const BELL = Float64Array.from({ length: FARTHEST * BELL_STEPS + 2 }, (_, i) => Math.exp(-0.5 * (i / BELL_STEPS) ** 2));

/** exp(−z²/2), straight between the points of a table: right to 2e-6, and nought beyond 8. */
function bell(z: number): number {
  const at = Math.abs(z) * BELL_STEPS;
  if (at >= FARTHEST * BELL_STEPS) return 0;
  const i = at | 0;
  return BELL[i]! + (at - i) * (BELL[i + 1]! - BELL[i]!);
}

/** A log-normal time whose density is asked for again and again. */
export class LogNormalDensity {
  readonly #mu: number;
  readonly #perSigma: number;
  readonly #height: number;
  /** @param weight of the density, where it is a part of a mixture */
  constructor({ mu, sigma }: LogNormal, weight = 1) {
    this.#mu = mu;
    this.#perSigma = 1 / sigma;
    this.#height = weight / (sigma * ROOT_TWO_PI);
  }
  /** Density per second, times the weight. @param logSeconds logarithm of `seconds` */
  at(seconds: number, logSeconds: number): number {
    return (this.#height * bell((logSeconds - this.#mu) * this.#perSigma)) / seconds;
  }
}
