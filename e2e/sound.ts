import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** What depends on colours alone; the rest is the same in light and dark. */
const COLOUR_RULES = ['color-contrast', 'link-in-text-block'];

/**
 * Nothing of this page is amiss for assistive technology, as far as a program can tell.
 * @param view its name, where something is
 * @param over a menu or list lies over the page: it is no part of any of its landmarks, as its pattern has it
 * @param colours only what depends on them
 */
export async function sound(page: Page, view: string, { over = false, colours = false } = {}): Promise<void> {
  // A word that is still fading in is pale for a moment only: what comes to an end by itself is waited for, but no longer than a second. What was taken away meanwhile never ends.
  await page.evaluate(() => {
    const ending = document.getAnimations().filter((a) => a.effect?.getComputedTiming().endTime !== Infinity);
    return Promise.race([
      Promise.allSettled(ending.map((a) => a.finished)),
      new Promise((done) => setTimeout(done, 1000)),
    ]);
  });
  // A long table is a hundred times the same row: twenty tell as much as two hundred.
  const axe = new AxeBuilder({ page })
    // Vane's pages hold no frames: a page of its own to gather what frames say would take twice the time.
    .setLegacyMode(true)
    .exclude('tbody tr:nth-child(n + 20)')
    .options({
      resultTypes: ['violations'],
      ...(colours
        ? { runOnly: { type: 'rule', values: COLOUR_RULES } }
        : { rules: { 'target-size': { enabled: true }, region: { enabled: !over } } }),
    });
  const { violations, passes } = await axe.analyze();
  expect(passes.length).toBeGreaterThan(0);
  expect(violations.map((v) => `${view}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
}
