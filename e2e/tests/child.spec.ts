import { expect, recordOf, test } from '../vane';

test('the sail map is walked with arrow keys, and the evidence follows the chosen needle and sail', async ({ signedIn: page }) => {
  const { child } = await recordOf(page, 'Tamsin');
  await page.goto(`/children/${child.id}`);
  const evidence = page.getByRole('region', { name: 'Evidence' });
  await expect(evidence.getByRole('heading')).toContainText('on a');

  await page.getByRole('button', { name: 'Adding', exact: true }).click();
  await expect(evidence.getByRole('heading')).toContainText('+');
  await page.getByRole('button', { name: /^3 \+ 4:/ }).click();
  await expect(evidence.getByRole('heading')).toHaveText('3 + 4');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', /^4 \+ 3:/);
  await page.keyboard.press('Enter');
  await expect(evidence.getByRole('heading')).toHaveText('4 + 3');
  await expect(evidence).toContainText('only has to copy takes');

  await page.getByRole('button', { name: 'Taking away', exact: true }).click();
  await expect(evidence.getByRole('heading')).toContainText('−');
});

test('the chart is drawn anew for another fact', async ({ signedIn: page }) => {
  const { child, responses } = await recordOf(page, 'Tamsin');
  const timed = (fact: string): number => responses.filter((r) => r.fact === fact && r.response_ms !== null).length;
  const asked = [...new Set(responses.filter((r) => r.kind === 'show' && r.fact.endsWith('frame-fives')).map((r) => r.fact))].sort(
    (a, b) => timed(b) - timed(a),
  );
  await page.goto(`/children/${child.id}`);
  for (const fact of [asked[0] ?? '', asked[asked.length - 1] ?? '']) {
    await page.getByRole('button', { name: new RegExp(`^${fact.split(':')[1] ?? ''} on a frame by fives:`) }).click();
    const days = new Set(responses.filter((r) => r.fact === fact && r.response_ms !== null).map((r) => r.shown_at.slice(0, 10))).size;
    await expect(page.locator('.apexcharts-yaxis-label').filter({ hasText: /\d/ })).toHaveCount(Math.min(8, days));
  }
});

test('a child is found by a part of the name', async ({ signedIn: page }) => {
  await page.goto('/children');
  await page.getByLabel('Find a child').fill('IN');
  await expect(page.getByRole('listitem')).toHaveCount(3);
  await page.getByRole('link', { name: 'Gethin' }).click();
  await expect(page.getByRole('heading', { name: 'Gethin' })).toBeVisible();
});
