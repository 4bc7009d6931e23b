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

/** Density per second of a log-normal at a time given by its logarithm. */
export function densityAtLog({ mu, sigma }: LogNormal, logSeconds: number): number {
  const z = (logSeconds - mu) / sigma;
  return Math.exp(-0.5 * z * z - logSeconds) / (sigma * ROOT_TWO_PI);
}
