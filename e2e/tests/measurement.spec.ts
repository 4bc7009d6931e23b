import type { Page } from '@playwright/test';
import {
  nextShow,
  beginSitting,
  expect,
  newResponses,
  number,
  onStage,
  recordOf,
  stage,
  test,
  endSession,
} from '../vane';

/** What anyone can see from outside: `data-phase`, sampled once a frame. Nothing of Vane's own code takes part. */
interface Span {
  readonly fromMs: number;
  readonly toMs: number;
  /** The longest frame at its two ends: what was on the screen is known no better than this. */
  readonly frameMs: number;
}

async function watchPhases(page: Page): Promise<void> {
  await page.evaluate(() => {
    const samples: [number, string][] = [];
    (window as unknown as { samples: typeof samples }).samples = samples;
    const look = (at: number): void => {
      samples.push([at, document.querySelector<HTMLElement>('[data-testid=stage]')?.dataset['phase'] ?? '']);
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}

const samplesOf = (page: Page): Promise<[number, string][]> =>
  page.evaluate(() => (window as unknown as { samples: [number, string][] }).samples);

/** Spans in which the sampled phase was `show`, from the first sample with it to the first without. */
function shows(samples: readonly [number, string][]): Span[] {
  const spans: Span[] = [];
  let first: number | null = null;
  const frameBefore = (i: number): number => (samples[i]?.[0] ?? 0) - (samples[i - 1]?.[0] ?? 0);
  samples.forEach(([at, phase], i) => {
    if (phase === 'show') first ??= i;
    else if (first !== null) {
      spans.push({ fromMs: samples[first]?.[0] ?? 0, toMs: at, frameMs: Math.max(frameBefore(first), frameBefore(i)) });
      first = null;
    }
  });
  return spans;
}

for (const [words, askedMs] of [
  ['0.2 s', 200],
  ['0.75 s', 750],
] as const) {
  test(`a flash of ${words}: the recorded exposure is the one that was on the screen${askedMs === 200 ? '' : ' @long'}`, async ({
    signedIn: page,
  }) => {
    const child = askedMs === 200 ? 'Fenn' : 'Wilfa';
    const before = await recordOf(page, child);
    await beginSitting(page, { child, seenFor: words, warmUp: false, shows: 5, byHand: true });
    await watchPhases(page);
    for (let i = 0; i < 5; i++) {
      await nextShow(page);
      await expect(stage(page)).toHaveAttribute('data-phase', 'answer');
      await number(page, await onStage(page)).click();
      await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    }
    const samples = await samplesOf(page);
    await page.keyboard.press('Space');
    const rows = await newResponses(page, child, before, 5);
    const seen = shows(samples);
    expect(seen).toHaveLength(5);
    rows.forEach((row, i) => {
      const { fromMs, toMs, frameMs } = seen[i] ?? { fromMs: 0, toMs: 0, frameMs: 0 };
      expect(Math.abs((row.exposure_ms ?? 0) - (toMs - fromMs))).toBeLessThanOrEqual(frameMs + 0.2);
      expect(row.quality?.asked_ms).toBe(askedMs);
      const off = Math.abs((row.exposure_ms ?? 0) - askedMs) > 1.05 * (row.quality?.frame_ms ?? 0);
      expect(row.flags.includes('exposure-off')).toBe(off);
    });
  });
}

/** Notes in the page, with the browser's own clock (milliseconds since 1970), when each show came, and when and how late presses were heard. */
async function notePresses(page: Page): Promise<void> {
  await page.evaluate(() => {
    const onsets: number[] = [];
    const presses: { at: number; heard: number }[] = [];
    Object.assign(window, { onsets, presses });
    const stage = document.querySelector<HTMLElement>('[data-testid=stage]')!;
    // The observer is called in the frame that shows; the document's own time line says which frame that is.
    new MutationObserver(() => {
      if (stage.dataset['phase'] === 'show')
        onsets.push(performance.timeOrigin + Number(document.timeline.currentTime));
    }).observe(stage, { attributeFilter: ['data-phase'] });
    const hear = (event: Event): void => {
      const now = performance.timeOrigin + performance.now();
      presses.push({ at: performance.timeOrigin + event.timeStamp, heard: now });
    };
    addEventListener('pointerdown', hear, true);
  });
}
interface Noted {
  readonly onsets: readonly number[];
  readonly presses: readonly { readonly at: number; readonly heard: number }[];
}
const noted = (page: Page): Promise<Noted> =>
  page.evaluate(() => {
    const { onsets, presses } = window as unknown as Noted;
    return { onsets, presses };
  });

test('a press while the page is busy is recorded when the finger came down, not when it was heard', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Nuru');
  await beginSitting(page, { child: 'Nuru', warmUp: false, shows: 5, byHand: true });
  await notePresses(page);
  const sent: number[] = [];
  for (let i = 0; i < 5; i++) {
    await nextShow(page);
    await expect(stage(page)).toHaveAttribute('data-phase', 'answer');
    await number(page, 3).hover();
    // Busy for 0.4 s from now on; a tenth of a second later comes the finger, by the browser as from a real one.
    const busy = page.evaluate(
      () =>
        new Promise<void>((done) =>
          setTimeout(() => {
            for (const until = performance.now() + 400; performance.now() < until;);
            done();
          }),
        ),
    );
    await new Promise((later) => setTimeout(later, 100));
    sent.push(Date.now());
    await page.mouse.down();
    await busy;
    await page.mouse.up();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await page.keyboard.press('Space');
  const rows = await newResponses(page, 'Nuru', before, 5);
  const { onsets, presses } = await noted(page);
  const shows = onsets.slice(0, 5);
  const taps = presses.filter(({ at }) => sent.some((one) => Math.abs(at - one) < 300));
  expect([shows.length, taps.length]).toEqual([5, 5]);
  rows.forEach((row, i) => {
    const recorded = shows[i]! + row.response_ms!;
    // True to the browser's own stamp, which is that of the finger as this test knows it, and well before it was heard.
    expect(Math.abs(recorded - taps[i]!.at)).toBeLessThan(2);
    expect(Math.abs(recorded - sent[i]!)).toBeLessThan(60);
    expect(taps[i]!.heard - recorded).toBeGreaterThan(150);
  });
});

test('the time is the press of the key, not the release @long', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Zadie');
  await beginSitting(page, { child: 'Zadie', warmUp: false, shows: 5, byHand: true });
  await notePresses(page);
  await nextShow(page);
  await number(page, 4).hover();
  await page.mouse.down();
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  await page.waitForTimeout(700);
  await page.mouse.up();
  await endSession(page);
  const [row] = await newResponses(page, 'Zadie', before, 1);
  const { onsets, presses } = await noted(page);
  expect(Math.abs(onsets[0]! + row!.response_ms! - presses[0]!.at)).toBeLessThan(2);
});

test('a hidden or left page flags the show, and a flagged show is not judged', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Pelle');
  await beginSitting(page, { child: 'Pelle', warmUp: false, shows: 5 });
  await nextShow(page);
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await number(page, await onStage(page)).click();
  await endSession(page);
  const [row] = await newResponses(page, 'Pelle', before, 1);
  expect(row?.flags).toContain('blurred');
  const after = await recordOf(page, 'Pelle');
  const count = (record: typeof after): number => record.readings.find((r) => r.fact === row?.fact)?.responses ?? 0;
  expect(count(after)).toBe(count(before));
});

test('two flashes are never less than half a second apart, however fast the hand', async ({ signedIn: page }) => {
  await beginSitting(page, { child: 'Junia', seenFor: '0.2 s', warmUp: false, shows: 10, byHand: true });
  // Every onset, however soon an answer ends it: the observer is called in the frame that shows, and the document's own time line says which frame that is.
  await page.evaluate(() => {
    const onsets: number[] = [];
    (window as unknown as { onsets: number[] }).onsets = onsets;
    const stage = document.querySelector<HTMLElement>('[data-testid=stage]')!;
    new MutationObserver(() => {
      if (stage.dataset['phase'] === 'show') onsets.push(Number(document.timeline.currentTime));
    }).observe(stage, { attributeFilter: ['data-phase'] });
  });
  // As fast as an impatient hand can, until it is over.
  const over = page.getByRole('heading', { name: 'Thank you, Junia.' });
  while (!(await over.isVisible())) for (const key of ['Space', '3']) await page.keyboard.press(key);
  const onsets = await page.evaluate(() => (window as unknown as { onsets: number[] }).onsets);
  expect(onsets).toHaveLength(10);
  for (let i = 1; i < onsets.length; i++) expect((onsets[i] ?? 0) - (onsets[i - 1] ?? 0)).toBeGreaterThan(500);
});
