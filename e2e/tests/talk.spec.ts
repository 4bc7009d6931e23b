import { parseQuestion } from '@vane/core';
import type { Page } from '@playwright/test';
import {
  begin,
  chooseRoutine,
  expect,
  newResponses,
  nextShow,
  openSettings,
  pickOption,
  pickRoutine,
  recordOf,
  shown,
  stage,
  test,
  usualCarpet,
  endSession,
  more,
} from '../vane';

async function choose(page: Page, child: string, routine: string): Promise<void> {
  await chooseRoutine(page, child, routine);
  await pickOption(page, 'Ready for', 'by hand');
}
const answered = (page: Page): Promise<void> => expect(stage(page)).toHaveAttribute('data-phase', /feedback|laid/);
const then = (page: Page) => page.getByRole('group', { name: 'Then' });

/** For each way of answering: a routine, keys that answer wrongly, and what the adult then says and can do. */
const WRONG: readonly {
  readonly routine: string;
  readonly keys: readonly string[];
  readonly says: RegExp;
  /** The picture was covered, and can be shown again. */
  readonly again: boolean;
  readonly helps: readonly string[];
}[] = [
  {
    routine: 'flash-and-say',
    keys: ['0'],
    says: /How many did you see\?”/,
    again: true,
    helps: ['count together'],
  },
  {
    routine: 'sums',
    keys: ['0'],
    says: /\d and \d makes what\?”/,
    again: false,
    helps: ['frame under it', 'count on', 'count together'],
  },
  {
    routine: 'make-it',
    keys: ['0'],
    says: /How many should there be\? Put \d more on/,
    again: false,
    helps: ['count together'],
  },
  {
    routine: 'same-or-different',
    keys: [],
    says: /Let’s check. Are there the same number on both sides\?”/,
    again: true,
    helps: ['count together'],
  },
];

for (const { routine, keys, says, again, helps } of WRONG) {
  test(`${routine}: after a wrong answer the words suit it, help is recorded, and what came then${routine === 'sums' ? '' : ' @long'}`, async ({
    signedIn: page,
  }) => {
    const before = await recordOf(page, 'Sorrel');
    await choose(page, 'Sorrel', routine);
    await begin(page, 'Sorrel');
    await page.keyboard.press('Space');
    await shown(page);
    // What is wrong of two words is known from the question: both are tried until one is.
    const pressed = keys.length > 0 ? keys : ['1'];
    for (const key of pressed) await page.keyboard.press(key);
    await answered(page);
    if (keys.length === 0 && (await then(page).getByRole('button').count()) === 0) {
      await page.keyboard.press('Backspace');
      await page.keyboard.press('2');
      await answered(page);
    }
    await expect(page.locator('.words')).toContainText(says);
    await expect(page.locator('.words')).not.toContainText('Sorrel answered');
    await page.keyboard.down('h');
    await expect(page.locator('.words')).toContainText(/^.*It is .*; Sorrel answered /);
    await page.keyboard.up('h');
    await expect(then(page).getByRole('button')).toHaveText(helps.map((words) => new RegExp(words)));
    await then(page).getByRole('button').first().click();
    await expect(then(page).getByRole('button').first()).toHaveAttribute('aria-pressed', 'true');
    const other = page.getByRole('button', { name: 'Show it again' });
    await expect(other).toBeEnabled({ enabled: again });
    if (again) {
      await other.click();
      await expect(page.locator('.words')).toContainText(/^.*“Look again\. /);
      await expect(stage(page)).toHaveAttribute('data-phase', 'laid');
    } else await page.keyboard.press('u');
    await page.keyboard.press(keys.length > 0 ? '3' : '1');
    await expect(then(page)).toContainText(keys.length > 0 ? 'then: 3' : 'then: same');
    await endSession(page);
    const row = (await newResponses(page, 'Sorrel', before, 1, false)).at(-1);
    expect(row).toMatchObject({ outcome: 'wrong' });
    expect(row?.help.length).toBe(again || helps.length > 1 ? 2 : 1);
    expect(row?.second_answer).not.toBe('');
    expect(row?.given).not.toBe(parseQuestion(row!.fact).answer);
  });
}

test('a sign before the answer stays with it; undo reaches the last answer after Next; the last answers are put right in one list @long', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Haruki');
  await choose(page, 'Haruki', 'sums');
  await pickOption(page, 'Answers', 'says it, you enter it');
  await begin(page, 'Haruki');
  const lips = page.getByRole('button', { name: /^lips/ });
  await expect(lips).toBeDisabled();
  await page.keyboard.press('Space');
  await shown(page);
  // The lips move before the child speaks.
  await page.keyboard.press('l');
  await expect(lips).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Space');
  await page.keyboard.press('0');
  await answered(page);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Show (?!it)/ })).toBeVisible();
  // It was another number: back to it, and entered anew.
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('button', { name: /^Next/ })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByRole('button', { name: /^Next/ })).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('Space');
  await shown(page);
  await page.keyboard.press('Space');
  await page.keyboard.press('4');
  await answered(page);
  await more(page, 'Last answers');
  const list = page.getByRole('dialog', { name: 'Last answers' }).getByRole('listitem');
  await expect(list).toHaveCount(3);
  await list.nth(1).getByRole('button', { name: 'counted', exact: true }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await endSession(page);
  const rows = await newResponses(page, 'Haruki', before, 3);
  expect(rows.map((r) => [r.given, r.void, r.observed])).toEqual([
    ['0', 'undone', ':lips'],
    ['5', '', 'counted:lips'],
    ['4', '', ''],
  ]);
  expect(rows[1]?.response_ms).toBe(rows[0]?.response_ms);
  expect(rows[1]?.fact).toBe(rows[0]?.fact);
});

test('how a right answer was seen is one tap, and the child’s page says which ways they use @long', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Gethin');
  await choose(page, 'Gethin', 'flash-and-say');
  await begin(page, 'Gethin');
  await page.keyboard.press('Space');
  await expect(stage(page)).toHaveAttribute('data-phase', 'answer');
  const n = await stage(page).locator('.picture circle').count();
  await page.keyboard.press(n === 10 ? 't' : String(n));
  await answered(page);
  // One alone is seen at once: there is nothing to say about it.
  if (n > 1)
    await then(page)
      .getByRole('button', { name: /^one more/ })
      .click();
  await endSession(page);
  const [row] = await newResponses(page, 'Gethin', before, 1);
  expect(row).toMatchObject({ outcome: 'correct', explanation: n > 1 ? 'one-more' : '' });
  if (n === 1) return;
  await page.goto(`/children/${before.child.id}`);
  await page.getByRole('button', { name: '“How did you see it?”: what they told us' }).click();
  const said = page.getByRole('table', { name: 'How they say they do it' });
  await expect(said.getByRole('row', { name: 'one more 1 0' })).toBeVisible();
});

test('all the ways, together: three children add to one board in turn, and a repeat lights up @long', async ({
  signedIn: page,
}) => {
  await usualCarpet(page);
  await page.goto('/carpet');
  await pickOption(page, 'Child', 'Linnet');
  await page.getByRole('combobox', { name: 'Others in turn' }).click();
  for (const name of ['Mirren', 'Rafi']) await page.getByRole('option', { name }).click();
  await page.keyboard.press('Escape');
  await pickRoutine(page, 'All the ways');
  await openSettings(page);
  await pickOption(page, 'Totals from', '4');
  await pickOption(page, 'to', '4');
  await begin(page, 'Linnet, Mirren and Rafi');
  const ways = stage(page).locator('.picture text');
  const now = page.locator('.pebble.now');
  const say = async (first: string, second: string): Promise<void> => {
    await nextShow(page);
    await page.keyboard.press(first);
    await page.keyboard.press(second);
    await expect(stage(page)).toHaveAttribute('data-phase', 'laid');
  };
  await expect(now).toContainText('Linnet');
  // How many there are is not given away.
  await nextShow(page);
  await expect(stage(page).locator('.picture rect')).toHaveCount(0);
  await say('1', '3');
  await expect(ways).toHaveText(['1', '3']);
  await nextShow(page);
  await expect(now).toContainText('Mirren');
  await say('1', '3');
  await expect(stage(page).locator('.lit')).toHaveCount(1);
  await nextShow(page);
  await expect(now).toContainText('Rafi');
  await say('3', '1');
  // The turned pair lights up beside the first.
  await expect(stage(page).locator('.lit')).toHaveCount(2);
  await expect(ways).toHaveText(['1', '3', '3', '1']);
  await nextShow(page);
  await expect(now).toContainText('Linnet');
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('listen only: one thumb marks what was heard, and it is in the record without a time', async ({
    signedIn: page,
  }) => {
    const before = await recordOf(page, 'Teodor');
    await page.goto('/carpet');
    await page.getByRole('link', { name: 'Listen only' }).tap();
    // Carpet has a list of the same name, until this page has come.
    await expect(page.getByRole('heading', { name: 'Listen only' })).toBeVisible();
    await pickOption(page, 'Child', 'Teodor');
    const marks = page.getByRole('group', { name: 'What you heard' }).getByRole('button');
    await expect(marks).toHaveText(['knew it', 'worked it out', 'counted', 'not yet']);
    // All in reach of a thumb, without scrolling.
    for (const mark of await marks.all()) {
      await expect(mark).toBeInViewport({ ratio: 1 });
      expect((await mark.boundingBox())!.y).toBeGreaterThan(844 / 2);
    }
    const fact = page.getByTestId('fact');
    const asked = [await fact.innerText()];
    await marks.nth(0).tap();
    await expect(fact).not.toHaveText(asked[0]!);
    await marks.nth(3).tap();
    await page.getByRole('radio', { name: 'with cubes' }).tap();
    await marks.nth(2).tap();
    await page.getByRole('link', { name: 'Close' }).tap();
    const rows = await newResponses(page, 'Teodor', before, 3);
    expect(rows.map((r) => [r.outcome, r.observed, r.aid, r.answer_mode, r.response_ms])).toEqual([
      ['correct', 'knew', 'none', 'spoken', null],
      ['wrong', '', 'none', 'spoken', null],
      ['correct', 'counted', 'objects', 'spoken', null],
    ]);
  });
});
