import fc from '../testing/property';
import { seeded } from '../random/random';
import { OnsetDetector } from './onset';
import { utterance } from './speech';

const RATE = 48_000;
const heard = (n: number, seed: number, noise = 0.003): { errorMs: number | null; onset: number } => {
  const { samples, onset } = utterance(n, { sampleRate: RATE, leadS: 0.6, noise, random: seeded(seed) });
  const detector = new OnsetDetector(RATE);
  detector.listen();
  const found = detector.feed(samples);
  return { errorMs: found === null ? null : ((found - onset) / RATE) * 1000, onset };
};

describe('the voice key', () => {
  it('hears every number once it begins, voiced ones within ten milliseconds, hissed ones within a tenth of a second', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 }), fc.nat(10_000), (n, seed) => {
        const { errorMs } = heard(n, seed);
        expect(errorMs).not.toBeNull();
        expect(errorMs).toBeGreaterThan(-6);
        expect(errorMs).toBeLessThan([3, 4, 5, 6, 7].includes(n) ? 100 : 10);
      }),
    );
  });

  it('finds the same moment however the sound is cut into blocks', () => {
    const { samples } = utterance(1, { sampleRate: RATE, leadS: 0.5, noise: 0.003, random: seeded(4) });
    const whole = new OnsetDetector(RATE);
    whole.listen();
    const at = whole.feed(samples);
    const blocks = new OnsetDetector(RATE);
    blocks.listen();
    let found: number | null = null;
    for (let i = 0; i < samples.length; i += 128) found = blocks.feed(samples.subarray(i, i + 128)) ?? found;
    expect(found).toBe(at);
  });

  it('hears nothing in a room, in silence, or in a knock', () => {
    const random = seeded(9);
    const detector = new OnsetDetector(RATE);
    detector.listen();
    expect(detector.feed(Float32Array.from({ length: 2 * RATE }, () => 0.02 * (random() - 0.5)))).toBeNull();
    expect(detector.feed(new Float32Array(RATE))).toBeNull();
    expect(detector.feed(Float32Array.from({ length: RATE }, (_, i) => (i > 1000 && i < 1700 ? 0.5 : 0)))).toBeNull();
  });

  it('tells one onset each time it is asked, and follows a room that grows louder', () => {
    const random = seeded(3);
    const detector = new OnsetDetector(RATE);
    const noise = (level: number, seconds: number): Float32Array =>
      Float32Array.from({ length: seconds * RATE }, () => level * 2 * (random() - 0.5));
    detector.feed(noise(0.002, 1));
    expect(detector.feed(noise(0.3, 1))).toBeNull();
    detector.feed(noise(0.002, 1));
    detector.listen();
    expect(detector.feed(noise(0.3, 0.2))).not.toBeNull();
    expect(detector.feed(noise(0.3, 0.2))).toBeNull();
  });
});
