import { DEVIATION_SD, LEVEL_SD } from './prior';
import { Z_GRID, type FactEvidence } from './posterior';

/** A fact's evidence with the ease that shifts it. */
export interface PlacedFact {
  readonly ease: number;
  readonly evidence: FactEvidence;
}

const LEVELS: readonly number[] = Array.from({ length: 27 }, (_, i) => -6.5 + 0.5 * i);
const STEP = 0.6;

const bell = (x: number, sd: number): number => Math.exp(-0.5 * (x / sd) ** 2);

/** Prior weights of z on the grid for a fact this much above or below zero; they sum to one. */
function around(centre: number): Float64Array {
  const w = Float64Array.from(Z_GRID, (z) => bell(z - Math.max(-8, Math.min(8, centre)), DEVIATION_SD));
  const total = w.reduce((sum, x) => sum + x, 0);
  return w.map((x) => x / total);
}

/** Weights around every centre on a fine lattice, made once: facts' centres are rounded to it. */
const LATTICE = STEP / 6;
const CACHE = new Map<number, Float64Array>();
function weights(centre: number): Float64Array {
  const key = Math.round(centre / LATTICE);
  let w = CACHE.get(key);
  if (!w) CACHE.set(key, (w = around(key * LATTICE)));
  return w;
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};

/** A child's level: a distribution over the grid of levels, and what each fact contributed to it. */
export interface Level {
  /** P(z) on Z_GRID for a fact of this ease, from everything but the fact at `leaveOut` (an index into the facts given; null: from everything). */
  priorFor(ease: number, leaveOut: number | null): Float64Array;
  /** Posterior mean of the level, log-odds. */
  readonly mean: number;
}

/**
 * The level of a child in one domain, from all its facts together, on a grid: P(level) ∝ N(0, LEVEL_SD) · Π_f ∫ E_f(z) N(z; level + ease_f, DEVIATION_SD) dz.
 * Exact leave-one-out by division, so that no fact is judged twice by its own answers.
 */
export function levelOf(facts: readonly PlacedFact[]): Level {
  const logLevel = LEVELS.map((level) => Math.log(bell(level, LEVEL_SD)));
  const logFact = facts.map((fact) => LEVELS.map((level) => Math.log(Math.max(1e-300, dot(fact.evidence.evidence, weights(level + fact.ease))))));
  const logAll = LEVELS.map((_, l) => (logLevel[l] ?? 0) + logFact.reduce((sum, own) => sum + (own[l] ?? 0), 0));
  const weightsWithout = (leaveOut: number | null): number[] => {
    const own = leaveOut === null ? undefined : logFact[leaveOut];
    const logs = logAll.map((all, l) => all - (own?.[l] ?? 0));
    const highest = Math.max(...logs);
    const raw = logs.map((x) => Math.exp(x - highest));
    const total = raw.reduce((sum, x) => sum + x, 0);
    return raw.map((x) => x / total);
  };
  const all = weightsWithout(null);
  return {
    mean: LEVELS.reduce((sum, level, l) => sum + level * (all[l] ?? 0), 0),
    priorFor(ease, leaveOut) {
      const mix = leaveOut === null ? all : weightsWithout(leaveOut);
      const out = new Float64Array(Z_GRID.length);
      LEVELS.forEach((level, l) => {
        const share = mix[l] ?? 0;
        if (share < 1e-9) return;
        const w = weights(level + ease);
        for (let z = 0; z < out.length; z++) out[z] = out[z]! + share * w[z]!;
      });
      return out;
    },
  };
}
