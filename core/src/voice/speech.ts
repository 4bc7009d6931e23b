import type { Random } from '../random/random';

/** How the number begins: its first sound decides how soon a level key hears it. */
const BEGINS: readonly ('voiced' | 'stop' | 'hiss')[] = [
  'voiced',
  'voiced',
  'stop',
  'hiss',
  'hiss',
  'hiss',
  'hiss',
  'hiss',
  'voiced',
  'voiced',
  'stop',
];

interface Utterance {
  /** −1 … 1. */
  readonly samples: Float32Array;
  /** Where the sound begins, in samples: the truth a detector is held against. */
  readonly onset: number;
}

/**
 * A made-up voice: a number "spoken" by a buzz with a child's pitch after a hiss, a burst or nothing, in a room with noise. It is no speech and nobody's recording; it has the rise
 * times that matter to a key that goes by level.
 * @param n 0 to 10
 * @param noise level of the room, as an amplitude (RMS); 0.003 is a quiet room
 */
export function utterance(
  n: number,
  { sampleRate, leadS, noise, random }: { sampleRate: number; leadS: number; noise: number; random: Random },
): Utterance {
  const onset = Math.round(leadS * sampleRate);
  const begins = BEGINS[n] ?? 'voiced';
  const hissS = begins === 'hiss' ? 0.08 + 0.04 * random() : begins === 'stop' ? 0.015 : 0;
  const voiceS = 0.3 + 0.1 * random();
  const total = onset + Math.round((hissS + voiceS + 0.2) * sampleRate);
  const pitch = 260 + 60 * random();
  const samples = new Float32Array(total);
  for (let i = 0; i < total; i++) {
    const t = (i - onset) / sampleRate;
    let sound = 0;
    if (t >= 0 && t < hissS) sound = (begins === 'stop' ? 0.25 : 0.06 * Math.min(1, t / 0.04)) * (2 * random() - 1);
    const v = t - hissS;
    if (v >= 0 && v < voiceS) {
      const swell = Math.min(1, v / 0.03) * Math.min(1, (voiceS - v) / 0.08);
      for (let k = 1; k <= 6; k++) sound += ((0.22 * swell) / k) * Math.sin(2 * Math.PI * pitch * k * v);
    }
    samples[i] = sound + noise * Math.sqrt(3) * (2 * random() - 1);
  }
  return { samples, onset };
}
