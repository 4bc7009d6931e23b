import { asked, playSitting } from '../../testing/played';

/** What photosensitivity asks for (WCAG 2.2, 2.3.1: at most three flashes in any second): Vane keeps two onsets at least half a second apart. */
const LEAST_APART_MS = 500;
const FACTS = [
  'show:3:frame-fives',
  'show:7:frame-fives',
  'show:9:frame-fives',
  'show:5:frame-fives',
  'show:2:frame-fives',
];

describe.each([60, 90, 120, 144])('flashes on a display of %i Hz', (hz) => {
  /** Onsets of all shows while, at every frame, an impatient hand does everything that could bring the next one about. */
  const onsets = (hand: (played: ReturnType<typeof playSitting>) => void): number[] => {
    const played = playSitting(FACTS.map(asked), { exposureMs: 100, secondLook: true }, {}, hz);
    const { frames, sitting, stage } = played;
    const seen: number[] = [];
    let before = stage.dataset['phase'];
    for (let frame = 0; frame < 20 * hz && sitting.moment() !== 'done'; frame++) {
      hand(played);
      frames.play();
      const phase = stage.dataset['phase'];
      if (phase === 'show' && before !== 'show') seen.push(frames.now());
      before = phase;
    }
    return seen;
  };
  const apart = (times: readonly number[]): number[] => times.slice(1).map((at, i) => at - times[i]!);

  it('are never less than half a second apart, however fast answers and Space come', () => {
    const seen = onsets(({ sitting, frames }) => {
      sitting.answer('3', frames.now());
      sitting.goOn(frames.now());
    });
    expect(seen).toHaveLength(FACTS.length);
    for (const gap of apart(seen)) expect(gap).toBeGreaterThanOrEqual(LEAST_APART_MS);
  });

  it('are never less than half a second apart when a second look is asked for again and again', () => {
    let looks = 0;
    const seen = onsets(({ sitting, frames }) => {
      if (sitting.moment() === 'ready') sitting.goOn(frames.now());
      sitting.answer('3', frames.now());
      if (looks++ < 15 * hz) sitting.secondLook();
    });
    expect(seen.length).toBeGreaterThan(10);
    for (const gap of apart(seen)) expect(gap).toBeGreaterThanOrEqual(LEAST_APART_MS);
  });

  it('are never less than half a second apart when the adult pauses and goes on in between', () => {
    let frame = 0;
    const seen = onsets(({ sitting, frames }) => {
      sitting.answer('3', frames.now());
      sitting.goOn(frames.now());
      if (++frame % Math.round(0.8 * hz) === 0) for (let i = 0; i < 2; i++) sitting.togglePause();
    });
    expect(seen.length).toBeGreaterThan(2);
    for (const gap of apart(seen)) expect(gap).toBeGreaterThanOrEqual(LEAST_APART_MS);
  });
});
