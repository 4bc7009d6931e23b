/** The q-quantile of the values by linear interpolation (type 7 in R); null when there are none. */
export function quantile(values: readonly number[], q: number): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const at = (sorted.length - 1) * q;
  const low = sorted[Math.floor(at)]!;
  const high = sorted[Math.ceil(at)]!;
  return low + (high - low) * (at - Math.floor(at));
}

/** The median of the values; null when there are none. */
export function median(values: readonly number[]): number | null {
  return quantile(values, 0.5);
}
