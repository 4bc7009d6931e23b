import { classOf, expect, recordOf, test, settled } from '../vane';

test('the sail map is walked with arrow keys, and the evidence follows the chosen needle and sail', async ({
  signedIn: page,
}) => {
  const { child } = await recordOf(page, 'Tamsin');
  await page.goto(`/children/${child.id}`);
  const evidence = page.getByRole('region', { name: 'Evidence' });
  // A child who works on pairs is opened at their sums, with one that is worth seeing.
  await expect(evidence.getByRole('heading')).toContainText('+');
  await expect(page.getByText(/^Shown first: of the pairs of/)).toBeVisible();
  await page.getByRole('button', { name: 'Seeing', exact: true }).click();
  await expect(evidence.getByRole('heading')).toContainText('on a');
  await page.getByRole('button', { name: 'Adding', exact: true }).click();
  await page.getByRole('button', { name: /^3 \+ 4:/ }).click();
  await expect(evidence.getByRole('heading')).toContainText('3 + 4.');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', /^4 \+ 3:/);
  await page.keyboard.press('Enter');
  await expect(evidence.getByRole('heading')).toContainText('4 + 3.');
  await expect(evidence).toContainText('Naming a number takes');

  await page.getByRole('button', { name: 'Taking away', exact: true }).click();
  await expect(evidence.getByRole('heading')).toContainText('−');
});

test('the chart is drawn anew for another fact @long', async ({ signedIn: page }) => {
  const { child, responses } = await recordOf(page, 'Tamsin');
  const timed = (fact: string): number => responses.filter((r) => r.fact === fact && r.response_ms !== null).length;
  const asked = [
    ...new Set(responses.filter((r) => r.kind === 'show' && r.fact.endsWith('frame-fives')).map((r) => r.fact)),
  ].sort((a, b) => timed(b) - timed(a));
  await page.goto(`/children/${child.id}?see=seeing`);
  for (const fact of [asked[0] ?? '', asked[asked.length - 1] ?? '']) {
    await page.getByRole('button', { name: new RegExp(`^${fact.split(':')[1] ?? ''} on a frame by fives:`) }).click();
    const days = new Set(
      responses.filter((r) => r.fact === fact && r.response_ms !== null).map((r) => r.shown_at.slice(0, 10)),
    ).size;
    await expect(
      page.getByRole('region', { name: 'Evidence' }).locator('.apexcharts-yaxis-label').filter({ hasText: /\d/ }),
    ).toHaveCount(Math.min(8, days));
  }
});

test('a child is found by a part of the name @long', async ({ signedIn: page }) => {
  await page.goto('/children');
  await page.getByLabel('Find a child').fill('IN');
  await expect(page.getByRole('listitem')).toHaveCount(3);
  // Each with what is next and when they were asked.
  await expect(page.getByRole('listitem').first()).toContainText(/working on \d+ · .*asked /);
  await page.getByRole('button', { name: 'not asked this week' }).click();
  const monday = new Date();
  monday.setHours(0, 0, 0, 0);
  monday.setDate(monday.getDate() - ((monday.getDay() + 6) % 7));
  const { children } = await classOf(page);
  const unheard = children.filter((one) => one.lastAskedAt === null || new Date(one.lastAskedAt) < monday);
  await expect(page.getByRole('listitem')).toHaveCount(Math.max(1, unheard.length));
  await page.getByLabel('Find a child').fill('IN');
  await page.getByRole('link', { name: 'Gethin' }).click();
  await expect(page.getByRole('heading', { name: 'Gethin' })).toBeVisible();
});

test('a teacher overrules a reading with a reason; both are shown, and the word is taken back', async ({
  signedIn: page,
}) => {
  const { child } = await recordOf(page, 'Haruki');
  // What loads later moves what stands below it: the page is let come to rest. On a busy machine that is asked for late.
  const rested = async (visit: () => Promise<unknown>) => {
    const later = page.waitForResponse((answer) => answer.url().includes('/moved'));
    await visit();
    await later;
    await settled(page);
  };
  await rested(() => page.goto(`/children/${child.id}`));
  await page.getByRole('button', { name: 'Adding', exact: true }).click();
  await page.getByRole('button', { name: /^3 \+ 4:/ }).click();
  const evidence = page.getByRole('region', { name: 'Evidence' });
  await evidence.getByRole('button', { name: /Override Vane’s view/ }).click();
  await evidence.getByLabel(/^Why/).fill('told me how: seven is five and two');
  await evidence.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(evidence).toContainText('Harbour keeper says: knows. “told me how: seven is five and two”');
  await rested(() => page.reload());
  await page.getByRole('button', { name: 'Adding', exact: true }).click();
  await page.getByRole('button', { name: /^3 \+ 4: .*; a teacher says knows$/ }).click();
  await evidence.getByRole('button', { name: 'Undo override' }).click();
  await expect(page.getByRole('button', { name: /^3 \+ 4: (?!.*teacher)/ })).toBeVisible();
});

test('mistakes have names, and time is drawn against counting @long', async ({ signedIn: page }) => {
  const { child } = await recordOf(page, 'Haruki');
  await page.goto(`/children/${child.id}`);
  await page.getByRole('button', { name: 'Adding', exact: true }).click();
  await page.getByRole('button', { name: /^Which mistakes\?/ }).click();
  await expect(page.getByRole('region', { name: 'Mistakes' }).getByRole('listitem').first()).toContainText(
    /such as \d+ for/,
  );
  await page.getByRole('button', { name: 'Counting or knowing?' }).click();
  const steps = page.getByRole('region', { name: 'Adding: time against counting' });
  await expect(steps).toContainText(/Each extra one to count adds about/);
  await expect(steps.locator('.apexcharts-series').first()).toBeAttached();
});
