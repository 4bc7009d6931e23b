/** A source of chance: each call gives a number in [0, 1). Always a parameter in `core`, never `Math.random`. */
export type Random = () => number;

/**
 * A seeded source of chance (mulberry32): the same seed gives the same numbers on every machine.
 * Good enough for draws and simulation; not for secrets.
 * @param seed any whole number; only its low 32 bits count
 */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A draw from the standard normal distribution (Box and Muller 1958). */
export function normal(random: Random): number {
  const u = 1 - random();
  return Math.sqrt(-2 * Math.log(u)) * Math.cos(2 * Math.PI * random());
}

/** A draw from a gamma distribution with the given shape and scale (Marsaglia and Tsang 2000). Throws RangeError unless both are positive. */
export function gamma(random: Random, shape: number, scale: number): number {
  if (!(shape > 0 && scale > 0)) throw new RangeError('gamma: shape and scale must be positive');
  if (shape < 1) return gamma(random, shape + 1, scale) * Math.pow(1 - random(), 1 / shape);
  const d = shape - 1 / 3;
  const c = 1 / Math.sqrt(9 * d);
  for (;;) {
    const x = normal(random);
    const v = Math.pow(1 + c * x, 3);
    if (v > 0 && Math.log(1 - random()) < (x * x) / 2 + d - d * v + d * Math.log(v)) return d * v * scale;
  }
}

/** The items in a new, evenly random order (Fisher and Yates). */
export function shuffled<T>(random: Random, items: readonly T[]): T[] {
  const out = [...items];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    const held = out[i] as T;
    out[i] = out[j] as T;
    out[j] = held;
  }
  return out;
}

/** One of the items, evenly. Throws RangeError on an empty list. */
export function pick<T>(random: Random, items: readonly T[]): T {
  if (items.length === 0) throw new RangeError('pick: nothing to pick from');
  return items[Math.floor(random() * items.length)] as T;
}
