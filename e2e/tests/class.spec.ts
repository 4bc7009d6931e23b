import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { sound } from '../sound';
import {
  classOf,
  endSession,
  expect,
  newResponses,
  nextShow,
  openSession,
  recordOf,
  stage,
  test,
  usualCarpet,
} from '../vane';

// Past weeks are judged on the first visit: a busy machine takes its time.
test.describe.configure({ timeout: 240_000 });

/** The class's picture with its past weeks, as a teacher finds it. */
async function openClass(page: Page) {
  await page.goto('/class');
  const picture = page.getByRole('group', { name: /^The class: across/ });
  await expect(picture).toBeVisible();
  await expect(page.getByText(/(Loading|Judging) past weeks/)).toBeHidden({ timeout: 80_000 });
  return { picture, child: (name: string) => picture.getByRole('button', { name: new RegExp(`^${name},`) }) };
}
const answerTo = (page: Page, question: string) => page.getByRole('region', { name: question, exact: true });

test('the whole class fits the screen; a chosen child shows who needs the same, and Class, Today and the child’s page agree @long', async ({
  signedIn: page,
}) => {
  const { children } = await classOf(page);
  const { picture, child } = await openClass(page);
  await page.getByRole('button', { name: 'Close' }).click();
  const all = picture.getByRole('button');
  await expect(all).toHaveCount(children.length);
  for (const box of await all.all()) expect((await box.boundingBox())!.y).toBeLessThan(780);
  // By need, never by rank or score.
  await expect(page.getByText(/highest|lowest|best|worst|rank|score/i)).toHaveCount(0);

  for (const { nickname } of [children[2]!, children[11]!, children[20]!]) {
    await child(nickname).click();
    const side = answerTo(page, 'The chosen child');
    const [title = '', reason = ''] = (await side.locator('p', { has: page.locator('b') }).innerText()).split(
      /(?<=\.) (.*)/s,
    );
    const said = reason.replace(/\.$/, '');
    const shared = await side.getByText(/^The same need:|^Nobody else/).innerText();
    for (const other of children.filter((one) => one.nickname !== nickname))
      expect([other.nickname, await child(other.nickname).evaluate((e) => e.classList.contains('dim'))]).toEqual([
        other.nickname,
        !new RegExp(`\\b${other.nickname}\\b`).test(shared),
      ]);
    await side.getByRole('link', { name: 'What do they know?' }).click();
    const next = answerTo(page, 'What to do next');
    await expect(next).toContainText(title);
    await expect(next).toContainText(said);
    await page.goto('/today');
    await openSession(
      page
        .getByRole('list', { name: 'Planned sessions' })
        .locator(':scope > li')
        .filter({ has: page.getByRole('button', { name: nickname, exact: true }) }),
    );
    await expect(page.locator('.reasons li', { hasText: new RegExp(`^[^:]*\\b${nickname}\\b[^:]*:`) })).toHaveText(
      new RegExp(
        said
          .slice(1, 30)
          .replace(/[+?()]/g, '\\$&')
          .replace(/\s/g, '\\s'),
      ),
    );
    await openClass(page);
  }
});

test('who was not heard, who is stuck, who can go on, what suits everybody, and who moved since a day', async ({
  signedIn: page,
}) => {
  const { children } = await classOf(page);
  const names = children.map((one) => one.nickname);
  const { child, picture } = await openClass(page);
  // What a list says of a child, the picture says too.
  const monday = Date.now() - ((new Date().getDay() + 6) % 7) * 86_400_000;
  const start = new Date(monday).setHours(0, 0, 0, 0);
  const unheard = children.filter((one) => one.lastAskedAt === null || Date.parse(one.lastAskedAt) < start);
  const told = await answerTo(page, 'Not heard this week').innerText();
  if (unheard.length < names.length)
    expect(names.filter((name) => told.includes(name))).toEqual(unheard.map((one) => one.nickname));
  else expect(told).toContain('Nobody has been heard');
  for (const { nickname } of unheard.slice(0, 3))
    await expect(child(nickname)).toHaveAccessibleName(/not heard this week/);

  const stuck = await answerTo(page, 'No change for three weeks: try another way').innerText();
  for (const name of names.filter((one) => stuck.includes(one)))
    await expect(child(name)).toHaveAccessibleName(/no change for three weeks/);
  await expect(picture.getByRole('button', { name: /no change for three weeks/ })).toHaveCount(
    names.filter((name) => stuck.includes(name)).length,
  );
  // Who is stuck is not told to go on.
  const ready = await answerTo(page, 'Ready to go on').innerText();
  expect(names.filter((name) => stuck.includes(name) && ready.includes(name))).toEqual([]);
  await expect(answerTo(page, 'Tomorrow, everyone')).toContainText(new RegExp(`it suits \\d+ of ${names.length}\\.`));

  const moved = answerTo(page, 'Moved since');
  const day = new Date(Date.now() - 28 * 86_400_000).toISOString().slice(0, 10).split('-').reverse().join('/');
  await moved.getByLabel('Day').fill(day);
  await moved.getByLabel('Day').press('Enter');
  await expect(moved).toContainText(/On to a larger number: /);
  const on = /On to a larger number: ([^.]*)\./.exec(await moved.innerText())?.[1] ?? '';
  const [mover] = names.filter((name) => on.includes(name));
  await expect(child(mover!)).toHaveAccessibleName(/before: working on/);
});

test('who knows a fact, a step or a number is seen in the picture and listed', async ({ signedIn: page }) => {
  const { picture } = await openClass(page);
  const { children } = await classOf(page);
  const field = page.getByRole('combobox', { name: 'Who knows …?' });
  for (const [typed, option] of [
    ['2+3', '2 + 3'],
    ['pairs of five', 'Pairs of five'],
    ['about 6', 'Everything about 6'],
  ] as const) {
    await field.fill(typed);
    await page.getByRole('option', { name: option, exact: true }).click();
    const told = answerTo(page, option);
    const listed = (await told.locator('dd').allInnerTexts()).join(' and ').split(/,| and /);
    expect(listed.map((name) => name.trim()).sort()).toEqual(children.map((one) => one.nickname).sort());
    const known = told.locator('div', { has: page.locator('dt', { hasText: /^known$/ }) }).locator('dd');
    const inPicture = await picture.locator('[data-word="known"] .name').allInnerTexts();
    if (inPicture.length === 0) await expect(known).toHaveCount(0);
    else for (const name of inPicture) await expect(known).toContainText(name);
  }
  await page.getByRole('button', { name: 'Clear' }).click();
  await expect(picture.locator('[data-word]')).toHaveCount(0);
  // What is not understood takes the last answer away, and says what is.
  await field.fill('about 6');
  await page.getByRole('option', { name: 'Everything about 6', exact: true }).click();
  await expect(picture.locator('[data-word]')).not.toHaveCount(0);
  await field.fill('elephants');
  await expect(picture.locator('[data-word]')).toHaveCount(0);
  await expect(page.getByText('Nothing like that has been asked. Try')).toBeVisible();
  const [{ nickname }] = children as [(typeof children)[number]];
  await field.fill(nickname);
  await page.getByRole('option', { name: nickname, exact: true }).click();
  await expect(page.getByRole('region', { name: 'The chosen child' }).getByRole('heading')).toHaveText(nickname);
  await expect(field).toHaveValue('');
});

test('one key hides every name; the picture is walked with arrow keys; nothing is amiss for assistive technology @both', async ({
  signedIn: page,
}) => {
  const { children } = await classOf(page);
  const { picture } = await openClass(page);
  await page.keyboard.press('n');
  await expect(page.getByRole('button', { name: /^Show names/ })).toBeVisible();
  const shown = await page.locator('body').innerText();
  expect(children.filter((one) => new RegExp(`\\b${one.nickname}\\b`).test(shown))).toEqual([]);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Show names/ })).toBeVisible();
  await page.getByRole('button', { name: /^Show names/ }).click();
  await expect(page.getByRole('main')).toContainText(children[0]!.nickname);
  await picture.getByRole('button').first().focus();
  const first = await page.locator(':focus').getAttribute('aria-label');
  await page.keyboard.press('ArrowDown');
  expect(await page.locator(':focus').getAttribute('aria-label')).not.toBe(first);
  await page.keyboard.press('Enter');
  await expect(answerTo(page, 'The chosen child')).toBeVisible();
  await sound(page, 'class');
});

test('adjustments for a child are followed on the carpet, and printed only where it is ticked @long', async ({
  signedIn: page,
}) => {
  await usualCarpet(page);
  const before = await recordOf(page, 'Marlo');
  const { child } = before;
  await page.goto(`/children/${child.id}`);
  await page.getByRole('button', { name: /^Adjustments for this child/ }).click();
  await page.getByRole('checkbox', { name: 'nothing flashed: pictures stay' }).check();
  await page.getByRole('checkbox', { name: 'answers by pointing' }).check();
  await page.getByLabel('In your own words: what to do').fill('number strip on the table');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/^Harbour keeper, /)).toBeVisible();
  await sound(page, 'class');

  await page.goto(`/carpet?child=${child.id}&routine=flash-and-say`);
  await page.getByRole('button', { name: 'Begin with Marlo' }).click();
  await nextShow(page);
  const flash = Number(await stage(page).locator('.picture circle').count());
  await page.keyboard.down('h');
  await expect(
    page.getByText('Nothing flashes for Marlo: the picture stays. Marlo points: enter what they show.'),
  ).toBeVisible();
  await page.keyboard.up('h');
  // It is for the adult alone.
  await expect(page.getByText(/Marlo points/)).toBeHidden();
  // Others see it for three quarters of a second: here it stays until the answer, and the record says so.
  await expect(stage(page)).toHaveAttribute('data-phase', 'show');
  await page.keyboard.press('Space');
  await page.keyboard.press(flash === 10 ? 't' : String(flash));
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  await endSession(page);
  await expect(page.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  const [row] = await newResponses(page, 'Marlo', before, 1);
  expect(row).toMatchObject({ outcome: 'correct', aid: 'none' });
  expect([row?.quality?.asked_ms, (row?.exposure_ms ?? 0) > (row?.response_ms ?? 0) - 100]).toEqual([null, true]);

  // Nor is it forgotten where one only listens.
  await page.goto('/listen');
  await page.getByRole('combobox', { name: 'Child' }).click();
  await page.getByRole('option', { name: 'Marlo', exact: true }).click();
  await expect(page.getByText('Marlo points: enter what they show.')).toBeVisible();

  const printed = async (support: boolean): Promise<string> => {
    const answer = await page.request.post(`/api/classes/${(await classOf(page)).id}/prints`, {
      data: { what: 'class-hand-over', support },
    });
    return execFileSync('pdftotext', ['-layout', '-', '-'], { input: await answer.body(), encoding: 'utf8' });
  };
  expect(await printed(true)).toContain('number strip on the table');
  expect(await printed(false)).not.toMatch(/number strip|pointing/);
  await page.goto('/prints?what=class-hand-over');
  await expect(page.getByText(/pages?\.$/)).toBeVisible();
  await expect(page.getByRole('checkbox', { name: /^Include adjustments/ })).not.toBeChecked();
});

test('two sentences for the door come from the record, are changed and kept; and what was done is told in order @long', async ({
  signedIn: page,
}) => {
  const { child } = await recordOf(page, 'Haruki');
  await page.goto(`/children/${child.id}`);
  await page.getByRole('button', { name: 'What can I tell parents?' }).click();
  const field = page.getByLabel('To say to parents, without times or scores');
  await expect(field).toHaveValue(/^Haruki .* At home, /);
  expect(await field.inputValue()).not.toMatch(/\d s\b|%|percent/);
  await field.fill('Haruki made six in every way today.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Your own words. They stay until you change them.')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'What can I tell parents?' }).click();
  await expect(field).toHaveValue('Haruki made six in every way today.');
  await page.getByRole('button', { name: 'From the record again' }).click();
  await expect(field).toHaveValue(/^Haruki .* At home, /);

  await page.getByRole('button', { name: 'What was done, and what changed?' }).click();
  const done = page.getByRole('list', { name: 'What was done, newest first' });
  await expect(done.getByText(/answers? right|one answer, (not )?right/).first()).toBeVisible();
  await page.getByRole('radio', { name: /^everything about/ }).click();
  await page.getByRole('button', { name: /^Show all/ }).click();
  await expect(done.getByText(/End of the week: /).first()).toBeVisible();
  await expect(page.getByText('One thing after another does not mean because of it.')).toBeVisible();
});

test('a first visit says what a place answers and leads to the guide; the next one does not @long', async ({
  signedIn: page,
}) => {
  await page.goto('/class');
  const note = page.getByRole('note');
  await expect(note).toContainText('Class shows who needs the same thing');
  const [guide] = await Promise.all([
    page.waitForEvent('popup'),
    note.getByRole('link', { name: 'How it works' }).click(),
  ]);
  await expect(guide.getByRole('heading', { name: 'Class', exact: true })).toBeVisible();
  await sound(guide, 'class');
  await guide.close();
  await page.getByRole('link', { name: 'Today', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Today', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Who needs the same thing?' })).toBeVisible();
  await expect(note).toHaveCount(0);
});
