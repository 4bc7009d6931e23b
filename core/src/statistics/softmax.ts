/** Probabilities from logarithms, up to a constant. */
export function softmax(logs: readonly number[]): number[] {
  const top = Math.max(...logs);
  const raw = logs.map((x) => Math.exp(x - top));
  const total = raw.reduce((sum, x) => sum + x, 0);
  return raw.map((x) => x / total);
}
