import { classValues, DEFAULT_READING_SETTINGS, judgeChildren, READING_WORDS, simulateClass } from '@vane/core';
import { sound } from '../sound';
import { expect, test } from '../vane';

test('a simulated class is judged in the browser as it is in Node, and truth stands against reading', async ({
  signedIn: page,
}) => {
  await page.goto('/today');
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('link', { name: 'Try Vane with a simulated class' }).click();
  await page.getByRole('combobox', { name: 'Children' }).click();
  await page.getByRole('option', { name: '6', exact: true }).click();
  await page.getByRole('combobox', { name: 'Weeks' }).click();
  await page.getByRole('option', { name: '2', exact: true }).click();
  // The clock decides where the weeks end: held still, so that Node can run the same class.
  const until = Date.UTC(2026, 5, 10, 12);
  await page.clock.setFixedTime(until);
  await page.getByRole('button', { name: 'Run the class' }).click();
  const result = page.getByRole('region', { name: 'Readings compared with the truth' });
  await expect(result).toBeVisible({ timeout: 60_000 });

  let made = 0;
  const names = ['Oriel', 'Tamsin', 'Ivo', 'Fenn', 'Wilfa', 'Nuru'];
  const { responses, truth } = simulateClass({
    seed: 1,
    names,
    weeks: 2,
    condition: 'mixed',
    until,
    makeId: () => `r${String(made++).padStart(7, '0')}`,
  });
  const readings = judgeChildren(responses, classValues(responses), { settings: DEFAULT_READING_SETTINGS }).flatMap(
    (j) => j.readings,
  );
  await expect(result).toContainText(`${truth.length} facts were asked`);
  const table = result.getByRole('table', { name: 'What was read and what is true' });
  for (const word of READING_WORDS) {
    const count = readings.filter((r) => r.reading === word).length;
    await expect(table.getByRole('row', { name: new RegExp(`^\\s*${word} ${count} `) })).toBeVisible();
  }
  await result.getByRole('button', { name: 'Ivo', exact: true }).click();
  await result.locator('vane-sail-map button').nth(12).click();
  await expect(result.getByRole('region', { name: 'Evidence' })).toBeVisible();
  await sound(page, 'rehearse');
});

test('a run can be cancelled @long', async ({ signedIn: page }) => {
  await page.goto('/rehearse');
  await page.getByRole('combobox', { name: 'Children' }).click();
  await page.getByRole('option', { name: '24', exact: true }).click();
  await page.getByRole('combobox', { name: 'Weeks' }).click();
  await page.getByRole('option', { name: '12', exact: true }).click();
  await page.getByRole('button', { name: 'Run the class' }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Run the class' })).toBeEnabled();
});

test('marking is practised with a simulated child that speaks, and nothing of it is recorded @long', async ({
  signedIn: page,
}) => {
  const sent: string[] = [];
  page.on('request', (request) => request.url().includes('/record') && sent.push(request.url()));
  await page.goto('/rehearse');
  await page.getByRole('button', { name: 'Practise entering answers' }).click();
  const says = page.getByTestId('says');
  for (let i = 0; i < 6; i++) {
    await expect(says).toHaveText(/“\d+!”/, { timeout: 30_000 });
    const said = /“(\d+)/.exec((await says.textContent()) ?? '')?.[1] ?? '';
    await page.keyboard.press('Space');
    await page.keyboard.press(said === '10' ? 't' : said);
    await page.keyboard.press('k');
    await page.keyboard.press('Space');
  }
  await expect(page.getByRole('heading', { name: 'How did it go?' })).toBeVisible();
  await expect(page.locator('tbody tr')).toHaveCount(6);
  await expect(page.getByText(/You entered 6 signs/)).toBeVisible();
  expect(sent).toEqual([]);
});
