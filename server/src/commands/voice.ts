import { OnsetDetector, seeded, utterance } from '@vane/core';

/** Holds the voice key against made-up voices whose beginning is known, and prints how far off it is, in milliseconds, as one line of JSON. */
const RATE = 48_000;
const REPEATS = 200;
const ROOMS = { quiet: 0.001, 'a classroom at work': 0.006, loud: 0.02 } as const;

const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? NaN;

const rooms = Object.entries(ROOMS).map(([room, noise]) => {
  const errors: number[] = [];
  let missed = 0;
  for (let n = 0; n <= 10; n++)
    for (let seed = 0; seed < REPEATS; seed++) {
      const { samples, onset } = utterance(n, {
        sampleRate: RATE,
        leadS: 0.5 + 0.003 * seed,
        noise,
        random: seeded(1000 * n + seed),
      });
      const detector = new OnsetDetector(RATE);
      detector.listen();
      const found = detector.feed(samples);
      if (found === null) missed++;
      else errors.push(((found - onset) / RATE) * 1000);
    }
  errors.sort((a, b) => a - b);
  return { room, noise, said: 11 * REPEATS, missed, p5: at(errors, 0.05), p50: at(errors, 0.5), p95: at(errors, 0.95) };
});
process.stdout.write(`${JSON.stringify(rooms)}\n`);
