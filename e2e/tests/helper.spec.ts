import { sound } from '../sound';
import { expect, newResponses, NO_ANSWER, openSession, recordOf, refused, test } from '../vane';

test('carpet time on one page and on a helper’s phone: the plan’s questions for that group, answers that outlast a lost network, and the end of the link', async ({
  signedIn: page,
  browser,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER, refused(401));
  await page.goto('/today');
  const time = page.locator('.time');
  const title = await time.locator('b').nth(1).innerText();
  const names = / with ([^,]*(?:, [A-Z][^,]*)*),/.exec(await time.innerText())![1]!.split(/, | and /);
  const before = await recordOf(page, names[0]!);
  await time.getByRole('button', { name: 'On paper or a phone …' }).click();
  // One page, for the whole of carpet time.
  await expect(page.getByText('One page.')).toBeVisible();
  await page.getByRole('button', { name: 'Make a link for today' }).click();
  const link = await page.locator('vane-helper-link code', { hasText: '/helper#' }).innerText();

  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const helper = await phone.newPage();
  await helper.goto(link);
  await expect(helper.getByRole('heading', { name: title, level: 1, exact: true })).toBeVisible();
  for (const name of names) await expect(helper.locator('.who')).toContainText(name);
  // What opens it stands in no address, history or screenshot.
  await expect(helper).toHaveURL(/\/helper$/);
  await sound(helper, 'helper');
  expect((await helper.request.get(`/api/classes/${before.child.id}`)).status()).toBe(401);

  await helper.getByRole('button', { name: 'Begin' }).click();
  const who = helper.getByRole('heading', { level: 1 });
  const said = helper.getByRole('radiogroup', { name: 'What the child said' });
  const next = helper.getByRole('button', { name: 'Next' });
  const left = async () => Number(/\d+/.exec(await helper.getByText(/questions left: /).innerText())?.[0]);
  const all = await left();
  await expect(who).toHaveText(names[0]!);
  await expect(next).toBeDisabled();
  await sound(helper, 'helper');
  await said.getByRole('radio', { name: '3', exact: true }).click();
  await next.click();
  // A slip: the one before is given anew.
  await helper.getByRole('button', { name: 'Back to the one before' }).click();
  await expect(who).toHaveText(names[0]!);
  await expect(said.getByRole('radio', { name: '3', exact: true })).toBeChecked();
  await said.getByRole('radio', { name: '4', exact: true }).click();
  await helper.getByRole('button', { name: 'I saw or heard counting' }).click();
  await next.click();
  for (const name of names.slice(1)) {
    await expect(who).toHaveText(name);
    await helper.getByRole('button', { name: 'Not asked' }).click();
  }
  // The same child again, without a network: the answer waits, also for a page that is opened anew.
  await expect(who).toHaveText(names[0]!);
  const [first] = await newResponses(page, names[0]!, before, 1);
  expect(first).toMatchObject({ given: '4', observed: 'counted', response_ms: null, answer_mode: 'spoken' });
  await phone.setOffline(true);
  await said.getByRole('radio', { name: '2', exact: true }).click();
  await next.click();
  await expect(helper.getByRole('alert')).toContainText(`${names[0]} said 2 to`);
  await phone.setOffline(false);
  await helper.reload();
  await newResponses(page, names[0]!, before, 2);
  await expect(helper.getByRole('alert')).toHaveCount(0);
  await helper.getByRole('button', { name: 'Begin' }).click();
  // What was answered is not asked again.
  expect(await left()).toBe(all - 2);

  await page.getByRole('button', { name: 'End the link' }).click();
  await expect(page.getByText('The link is ended.')).toBeVisible();
  await helper.reload();
  await expect(helper.getByRole('alert')).toContainText('the link was ended');
  await phone.close();
});

test('a picture is shown for its moment and covered, and a child’s own questions are keyed in from paper @long', async ({
  signedIn: page,
  browser,
}) => {
  await page.goto('/today');
  const row = page
    .getByRole('list', { name: 'Planned sessions' })
    .locator(':scope > li')
    .filter({ hasText: 'How many more to five' })
    .first();
  await expect(row).toBeVisible();
  await openSession(row);
  const [name] = await row.locator('button.pebble').allInnerTexts();
  await row.getByRole('button', { name: 'On paper or a phone …' }).click();
  await page.getByRole('button', { name: 'Make a link for today' }).click();
  const link = await page.locator('vane-helper-link code', { hasText: '/helper#' }).innerText();
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const helper = await phone.newPage();
  await helper.goto(link);
  await helper.getByRole('button', { name: 'Begin' }).click();
  const show = helper.getByRole('button', { name: 'Show', exact: true });
  // Until a question comes that is flashed.
  while (!(await show.isVisible())) await helper.getByRole('button', { name: 'Not asked' }).click();
  const boxes = helper.locator('.picture svg');
  await expect(boxes).toHaveCount(0);
  await show.click();
  const seen = await boxes.innerHTML();
  await expect.poll(() => boxes.innerHTML()).not.toBe(seen);
  // Shown once more, it is no first look any more.
  await helper.getByRole('button', { name: 'Show it again' }).click();
  await expect.poll(() => boxes.innerHTML()).toBe(seen);
  const who = await helper.getByRole('heading', { level: 1 }).innerText();
  const asked = await recordOf(page, who);
  await helper.getByRole('radio', { name: '4', exact: true }).click();
  await helper.getByRole('button', { name: 'Next' }).click();
  await helper.getByRole('button', { name: 'Not asked' }).click();
  expect((await newResponses(page, who, asked, 1))[0]).toMatchObject({ given: '4', aid: 'second-look' });
  await phone.close();

  const code = /sheet=(\w{6})/.exec(page.url())?.[1] ?? '';
  await page.getByRole('link', { name: `Enter ${code}` }).click();
  const cells = page.getByRole('textbox', { name: new RegExp(`^${name}, `) });
  // Line by line as on the paper: a place for each of the child's own questions.
  await expect(cells.nth(5)).toBeVisible();
  expect(await page.locator('tbody tr').count()).toBe(await cells.count());
  await cells.first().focus();
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await expect(cells.nth(1)).toBeFocused();
});
