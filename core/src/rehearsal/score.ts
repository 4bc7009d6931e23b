/** A probability given, and whether what it was given for turned out true. */
export interface Judged01 {
  /** 0 … 1 */
  readonly p: number;
  readonly truth: boolean;
}

/** Mean squared distance of probabilities from the truth: 0 is perfect, 0.25 is a coin (Brier 1950). `null` for no judgements. */
export function brier(judged: readonly Judged01[]): number | null {
  if (judged.length === 0) return null;
  return judged.reduce((sum, { p, truth }) => sum + (p - Number(truth)) ** 2, 0) / judged.length;
}

/**
 * Expected calibration error over ten equal bands of p: how far, on average, what was said lies from how often it was so. 0 is perfect.
 * `null` for no judgements.
 */
export function calibrationError(judged: readonly Judged01[], bands = 10): number | null {
  if (judged.length === 0) return null;
  const sums = Array.from({ length: bands }, () => ({ p: 0, truth: 0 }));
  for (const { p, truth } of judged) {
    const band = sums[Math.min(bands - 1, Math.floor(p * bands))]!;
    band.p += p;
    band.truth += Number(truth);
  }
  return sums.reduce((sum, band) => sum + Math.abs(band.p - band.truth), 0) / judged.length;
}

/**
 * Area under the receiver operating curve: the chance that a true one was given more than a false one, ties counting half (Mann and Whitney 1947, by ranks).
 * `null` unless there are true ones and false ones.
 */
export function auc(judged: readonly Judged01[]): number | null {
  const sorted = [...judged].sort((a, b) => a.p - b.p);
  let ranks = 0;
  for (let i = 0; i < sorted.length;) {
    let j = i;
    while (j < sorted.length && sorted[j]!.p === sorted[i]!.p) j++;
    const rank = (i + j + 1) / 2;
    for (let k = i; k < j; k++) if (sorted[k]!.truth) ranks += rank;
    i = j;
  }
  const yes = sorted.filter(({ truth }) => truth).length;
  const no = sorted.length - yes;
  return yes === 0 || no === 0 ? null : (ranks - (yes * (yes + 1)) / 2) / (yes * no);
}

/** Mean of the shares rightly called true and rightly called false when p ≥ 0.5 means true. `null` unless there are both. */
export function balancedAccuracy(judged: readonly Judged01[]): number | null {
  const right = (truth: boolean): number | null => {
    const all = judged.filter((one) => one.truth === truth);
    return all.length === 0 ? null : all.filter(({ p }) => p >= 0.5 === truth).length / all.length;
  };
  const [yes, no] = [right(true), right(false)];
  return yes === null || no === null ? null : (yes + no) / 2;
}
