import type { Page } from '@playwright/test';
import { nextShow, beginSitting, expect, newResponses, number, onStage, recordOf, stage, test } from '../vane';

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
  test(`a flash of ${words}: the recorded exposure is the one that was on the screen`, async ({ signedIn: page }) => {
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

test('a press at a known time is recorded within 10 ms', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Nuru');
  await beginSitting(page, { child: 'Nuru', warmUp: false, shows: 5, byHand: true });
  await page.evaluate(() => {
    const known: number[] = [];
    (window as unknown as { known: number[] }).known = known;
    const stage = document.querySelector<HTMLElement>('[data-testid=stage]')!;
    // The observer is called in the frame that shows; the document's own time line says which frame that is.
    new MutationObserver(() => {
      if (stage.dataset['phase'] !== 'show') return;
      const onset = Number(document.timeline.currentTime);
      setTimeout(
        () => {
          const event = new PointerEvent('pointerdown', { bubbles: true, isPrimary: true });
          known.push(performance.now() - onset);
          document.querySelector('[data-number="3"]')!.dispatchEvent(event);
          // A page that is busy after the press must not lengthen it.
          const until = performance.now() + 40;
          while (performance.now() < until);
        },
        640 + 53 * known.length,
      );
    }).observe(stage, { attributeFilter: ['data-phase'] });
  });
  for (let i = 0; i < 5; i++) {
    await nextShow(page);
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  const known = await page.evaluate(() => (window as unknown as { known: number[] }).known);
  await page.keyboard.press('Space');
  const rows = await newResponses(page, 'Nuru', before, 5);
  expect(known).toHaveLength(5);
  rows.forEach((row, i) => expect(Math.abs((row.response_ms ?? 0) - (known[i] ?? 0))).toBeLessThan(10));
});

test('the time is the press of the key, not the release', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Zadie');
  await beginSitting(page, { child: 'Zadie', warmUp: false, shows: 5 });
  await nextShow(page);
  const pad = number(page, 4);
  await pad.hover();
  await page.mouse.down();
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  const held = await page.evaluate(() => new Promise<number>((done) => setTimeout(() => done(700), 700)));
  await page.mouse.up();
  await page.getByRole('button', { name: 'End', exact: true }).click();
  const [row] = await newResponses(page, 'Zadie', before, 1);
  const age = Date.now() - Date.parse(row?.shown_at ?? '');
  expect(age - (row?.response_ms ?? 0)).toBeGreaterThan(held);
});

test('a hidden or left page flags the show, and a flagged show is not judged', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Pelle');
  await beginSitting(page, { child: 'Pelle', warmUp: false, shows: 5 });
  await nextShow(page);
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await number(page, await onStage(page)).click();
  await page.getByRole('button', { name: 'End', exact: true }).click();
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
