import { everyRow, expect, pickOption, recordOf, test, refused } from '../vane';

test('a child joins, gets another nickname, is put away and comes back; deleted, it leaves nothing in any table', async ({
  signedIn: page,
  vane,
  expectSaid,
}) => {
  expectSaid(refused(409));
  await page.goto('/children');
  await page.getByRole('button', { name: 'Add children' }).click();
  await page.getByLabel('One nickname on each line').fill('Wren\n\nSkua');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Skua' })).toBeVisible();
  const change = async (name: string, what: string | RegExp): Promise<void> => {
    await page.getByRole('button', { name: `Change ${name}`, exact: true }).click();
    await page.getByRole('menuitem', { name: what }).click();
  };
  await change('Skua', /^Rename/);
  await page.getByRole('textbox', { name: 'Nickname' }).fill('Wren');
  await page.getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByRole('alert')).toContainText('This name is already taken');
  await change('Skua', 'Archive');
  await expect(page.getByRole('link', { name: 'Skua' })).toBeHidden();
  await page.getByRole('listitem').filter({ hasText: 'Skua' }).getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('link', { name: 'Skua' })).toBeVisible();

  const { child, responses } = await recordOf(page, 'Pelle');
  expect(responses.length).toBeGreaterThan(50);
  expect(await everyRow(vane.database)).toContain(child.id);
  await change('Pelle', /^Delete/);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Delete for good' })).toBeDisabled();
  await dialog.getByLabel('Type Pelle to continue').fill('Pelle');
  await dialog.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Pelle has been deleted.' })).toBeVisible();
  const left = await everyRow(vane.database);
  for (const trace of [child.id, 'Pelle', ...responses.slice(0, 5).map((r) => r.response_id)])
    expect(left).not.toContain(trace);
});

test('a child is moved to a new class with its record, and a year ends', async ({ signedIn: page }) => {
  await page.goto('/today');
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('link', { name: /^Classes and adults/ }).click();
  await page.getByRole('button', { name: 'Add a class' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Dunlin');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Dunlin' })).toContainText('no children');

  await page.goto('/children');
  await page.getByRole('button', { name: 'Change Junia' }).click();
  await page.getByRole('menuitem', { name: 'Move to Dunlin' }).click();
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Junia is now in Dunlin.' })).toBeVisible();
  await page.getByRole('button', { name: 'Choose a class' }).click();
  await page.getByRole('menuitem', { name: 'Dunlin' }).click();
  await page.getByRole('link', { name: 'Junia' }).click();
  await expect(page.getByText(/^Changed in the last session/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Junia' })).toBeVisible();

  await page.goto('/school');
  await page.getByRole('button', { name: 'Change Dunlin' }).click();
  await page.getByRole('menuitem', { name: /^End of the year/ }).click();
  await page.getByLabel('Name of the new class').fill('Heron');
  await page.getByRole('button', { name: 'Move up one child' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Heron' })).toContainText('one child');
  await expect(page.getByRole('listitem').filter({ hasText: 'Dunlin' })).toContainText('archived');
  await page.getByLabel('Find a class or adult').fill('heRon');
  await expect(page.getByRole('listitem').filter({ hasText: 'Dunlin' })).toBeHidden();
  await expect(page.getByRole('listitem').filter({ hasText: 'Heron' })).toBeVisible();
  await page.getByLabel('Find a class or adult').fill('');
  await page.getByRole('button', { name: 'Change Dunlin' }).click();
  await page.getByRole('menuitem', { name: /^Delete/ }).click();
  await page.getByLabel('Type Dunlin to continue').fill('Dunlin');
  await page.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Dunlin' })).toBeHidden();
});

test('a child is seen over time and stepped back; what comes next begins; notes stand on child and sitting @long', async ({
  signedIn: page,
}) => {
  const { child, responses } = await recordOf(page, 'Tamsin');
  await page.goto(`/children/${child.id}`);
  await page.getByRole('button', { name: 'What has changed over the weeks?' }).click();
  const time = page.getByRole('region', { name: 'Over time' });
  await expect(time).toContainText(/Tamsin has come to know \S+ facts? over \S+ weeks\./, {
    timeout: 60_000,
  });
  await expect(time.getByRole('progressbar')).toBeHidden({ timeout: 60_000 });
  await expect(time.locator('.apexcharts-bar-area').first()).toBeAttached();

  const day = responses[Math.floor(responses.length / 3)]!.shown_at.slice(0, 10);
  await time.getByLabel('See the record on').fill(day);
  await time.getByLabel('See the record on').blur();
  await expect(page.getByText(/^as the record stood on/)).toBeVisible();
  const earlier = responses.filter((r) => r.shown_at.slice(0, 10) <= day).length;
  expect((await recordOf(page, 'Tamsin', day)).responses).toHaveLength(earlier);
  await page.getByRole('button', { name: 'Back to now' }).first().click();

  await expect(page.getByRole('region', { name: 'Working number' })).toContainText(/Tamsin is working on|Every pair/);
  await page.getByRole('button', { name: /^Notes/ }).click();
  await page.getByLabel('A note for the adults who work with this child').fill('likes the lanterns best');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Notes' })).toContainText('likes the lanterns best Harbour keeper');
  await page.getByRole('button', { name: 'Delete note: likes the lanterns best' }).click();
  await expect(page.getByRole('region', { name: 'Notes' })).not.toContainText('lanterns');
  await page.getByRole('region', { name: 'What to do next' }).getByRole('button', { name: 'Change …' }).click();
  await expect(
    page.getByRole('region', { name: /^(Pairs of|Take away|How many more|Seeing|A first)/ }).last(),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Begin with Tamsin' })).toBeVisible();

  await page.goto('/log');
  await pickOption(page, 'Child', 'Tamsin');
  await page
    .getByRole('button', { name: /^Correct: Tamsin/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: /^Note on this session/ }).click();
  await page.getByLabel('What should others know?').fill('fire bell');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('“fire bell”').first()).toBeVisible();
});

test('the class is seen over the weeks @long', async ({ signedIn: page }) => {
  await page.goto('/class');
  await expect(page.getByRole('progressbar', { name: 'Past weeks judged' })).toBeHidden({ timeout: 80_000 });
  const weeks = page.getByRole('region', { name: 'Over the weeks' });
  // Shares of what was asked: the axis ends at all of it.
  await expect(weeks.locator('.apexcharts-yaxis-label').first()).toContainText('100 %');
  await expect(weeks.locator('.apexcharts-bar-area').first()).toBeAttached();
});
