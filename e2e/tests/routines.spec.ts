import { english, routineOf, WORD_CHOICES } from '@vane/core';
import type { Page } from '@playwright/test';
import {
  begin,
  chooseRoutine,
  classOf,
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
} from '../vane';

/** One routine for each way of answering, with what its first answers leave in the record; all of them are played in whole/everyRoutine.spec.ts, from their questions to the database. */
const WAYS_OF_ANSWERING: Record<string, readonly string[]> = {
  // A number.
  sums: ['add none tap', 'add none tap'],
  // One of a few words.
  'same-or-different': ['compare none tap', 'compare none tap'],
  // Both parts of a pair.
  'all-the-ways': ['ways none tap', 'ways none tap'],
  // Counters on a frame, then numbers of what stands there.
  'make-it': ['match none build', 'missing picture tap', 'add picture tap', 'missing picture tap'],
  // A cut.
  'one-cut': ['show picture tap', 'part picture tap', 'bond picture tap'],
  // Talk, and a question after it.
  'talk-about-it': ['show none tap'],
  // The child shows, the adult stops the clock and marks.
  'objects-to-numeral': ['match objects show', 'match objects show'],
};

/** Answers whatever is asked, and goes on: by keys, but for the cut, which is tapped. */
async function step(page: Page): Promise<void> {
  await shown(page);
  const want = await page.locator('vane-carpet-run').getAttribute('data-want');
  if (want === 'talk') return page.keyboard.press('Space');
  if (want === 'board') {
    const box = page.getByRole('button', { name: 'box 1', exact: true });
    const before = (await box.getAttribute('aria-pressed')) ?? '';
    await box.focus();
    await page.keyboard.press('Enter');
    await expect(box).not.toHaveAttribute('aria-pressed', before);
    for (const key of ['ArrowRight', 'Enter']) await page.keyboard.press(key);
    await page.keyboard.press('Space');
  } else if (want === 'cut') {
    await page
      .getByRole('button', { name: /^cut after/, disabled: false })
      .first()
      .click();
  } else {
    await page.keyboard.press('1');
    if (want === 'pair') {
      await expect(page.locator('[data-number="1"].given')).toBeVisible();
      await page.keyboard.press('2');
    }
  }
  await expect(stage(page)).toHaveAttribute('data-phase', /feedback|laid/);
  await page.keyboard.press('Space');
}

async function playToRecord(page: Page, id: string): Promise<void> {
  const expected = WAYS_OF_ANSWERING[id] ?? [];
  const routine = routineOf(id);
  const before = await recordOf(page, 'Teodor');
  await chooseRoutine(page, 'Teodor', routine.id);
  await expect(
    page.getByRole('heading', { name: english.routines[routine.id].title, exact: true, level: 2 }).last(),
  ).toBeVisible();
  await begin(page, 'Teodor');
  const finished = page.getByRole('heading', { name: 'Thank you, Teodor.' });
  // Steps that leave no trace lie between: some routines talk, ask for a claim, or have the child cut.
  const asked = page.locator('[data-testid=stage]:is([data-phase=show], [data-phase=mask], [data-phase=answer])');
  for (let i = 0; i < expected.length + 2 && !(await finished.isVisible()); i++) {
    await step(page);
    await expect(finished.or(asked)).toBeVisible();
  }
  if (!(await finished.isVisible())) await endSession(page);
  const rows = await newResponses(page, 'Teodor', before, expected.length, false);
  expect([routine.id, ...rows.slice(0, expected.length).map((r) => `${r.kind} ${r.aid} ${r.answer_mode}`)]).toEqual([
    routine.id,
    ...expected,
  ]);
  expect(rows.every((r) => r.given !== '' && (r.response_ms !== null || r.answer_mode === 'show'))).toBe(true);
}

for (const id of Object.keys(WAYS_OF_ANSWERING)) {
  // Every routine is played to the database without a browser (e2e/whole): here one for each way of answering.
  test(`${id} is played by keyboard, down to its record in the database @long`, async ({ signedIn: page }) => {
    await playToRecord(page, id);
  });
}

test('a class’s own words are kept, and used in what is to be said @long', async ({ signedIn: page }) => {
  await page.goto('/carpet');
  await pickRoutine(page, 'Sums');
  await openSettings(page);
  await page.getByText('Words for this class').click();
  await page.getByRole('combobox', { name: 'plus sign' }).click();
  await page.getByRole('option', { name: WORD_CHOICES.plus[1], exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await begin(page);
  await nextShow(page);
  // The question is there for everybody; what tells its answer is there while it is asked for.
  const said = page.getByText(/“\d+ plus \d+ makes what\?”/);
  await expect(said).toBeVisible();
  const [, a = '0', b = '0'] = /(\d+) plus (\d+)/.exec((await said.textContent()) ?? '') ?? [];
  await page.keyboard.press(String(Number(a) + Number(b)).replace('10', 't'));
  const sentence = page.getByText(/Say the whole sentence: \d+ plus \d+ makes \d+/);
  await expect(page.getByText('“How did you know?”')).toBeVisible();
  await expect(sentence).toBeHidden();
  await page.keyboard.down('h');
  await expect(sentence).toBeVisible();
  await page.keyboard.up('h');
  await expect(sentence).toBeHidden();
  await endSession(page);
  await expect.poll(async () => (await classOf(page)).carpet.words.plus).toBe('plus');
});

test('the stage holds nothing to read but the thing to see @both', async ({ signedIn: page }) => {
  await page.goto('/carpet');
  await pickRoutine(page, 'Some go away');
  await openSettings(page);
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await begin(page);
  await shown(page);
  expect((await stage(page).textContent())?.trim()).toBe('');
  const [box, view] = [await stage(page).boundingBox(), page.viewportSize()];
  expect((box?.width ?? 0) * (box?.height ?? 0)).toBeGreaterThan(0.5 * (view?.width ?? 0) * (view?.height ?? 0));
});

test('three children in turn, each on its own questions; one goes later, one leaves; every answer is its own child’s', async ({
  signedIn: page,
}) => {
  const before = new Map<string, Awaited<ReturnType<typeof recordOf>>>();
  for (const name of ['Linnet', 'Rafi', 'Mirren']) before.set(name, await recordOf(page, name));
  await usualCarpet(page);
  await page.goto('/carpet');
  await page.getByRole('combobox', { name: 'Child' }).click();
  await page.getByRole('option', { name: 'Linnet' }).click();
  await page.getByRole('combobox', { name: 'Others in turn' }).click();
  for (const name of ['Mirren', 'Rafi']) await page.getByRole('option', { name }).click();
  await page.keyboard.press('Escape');
  await openSettings(page);
  await pickOption(page, 'Ready for', 'by hand');
  await page.getByRole('radio', { name: '5', exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await begin(page, 'Linnet, Mirren and Rafi');
  await page.keyboard.down('h');
  const go = async (): Promise<void> => {
    await page.keyboard.press('Space');
    await shown(page);
    await page.keyboard.press('3');
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    await page.keyboard.press('Space');
  };
  await expect(page.getByText('Linnet’s turn.')).toBeVisible();
  await go();
  await expect(page.getByText('Mirren’s turn.')).toBeVisible();
  await page.keyboard.press('e');
  await expect(page.getByText('Rafi’s turn.')).toBeVisible();
  await go();
  await expect(page.getByText('Mirren’s turn.')).toBeVisible();
  await go();
  const line = page.getByRole('group', { name: 'Whose turn' });
  await line.getByRole('button', { name: /^Linnet/ }).click();
  await expect(line.getByRole('button', { name: /^Linnet, had 1, away: bring back/ })).toBeVisible();
  await expect(page.getByText('Mirren’s turn.')).toBeVisible();
  await endSession(page);
  await expect(page.getByRole('heading', { name: 'Thank you, everyone.' })).toBeVisible();
  for (const [name, record] of before) expect((await newResponses(page, name, record, 1))[0]?.given).toBe('3');
});

test('a child builds by touch and by dragging; how it lies is told apart from the number @both', async ({
  signedIn: page,
}, { project }) => {
  const before = await recordOf(page, 'Teodor');
  await chooseRoutine(page, 'Teodor', 'learn-frame');
  await begin(page, 'Teodor');
  // How many boxes, above and below.
  for (const key of ['t', '5', '5']) {
    await nextShow(page);
    await page.keyboard.press(key);
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await nextShow(page);
  const box = (n: number) => page.getByRole('button', { name: `box ${n}`, exact: true });
  const press = (n: number): Promise<void> => (project.name === 'tablet' ? box(n).tap() : box(n).click());
  await press(1);
  await page.getByRole('button', { name: /^Done/ }).click();
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  await nextShow(page);
  // The rule is said, and then on.
  await page.keyboard.press('Space');
  await expect(box(1)).toBeVisible();
  await shown(page);
  await press(1);
  await press(7);
  await press(8);
  await press(8);
  await expect(box(8)).toHaveAttribute('aria-pressed', 'false');
  if (project.name === 'laptop') {
    // A counter is carried from the pool into a box, in steps as a hand would.
    const from = (await page.locator('.pool .counter').first().boundingBox())!;
    const to = (await box(4).boundingBox())!;
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 12 });
    await page.mouse.up();
    await expect(box(4)).toHaveAttribute('aria-pressed', 'true');
    await press(4);
  }
  await page.getByRole('button', { name: /^Done/ }).click();
  await page.keyboard.down('h');
  await expect(page.getByText('They started the second row before the first was full.')).toBeVisible();
  await endSession(page);
  // The boxes and the start box were questions too.
  const rows = await newResponses(page, 'Teodor', before, 5);
  expect(rows.slice(0, 4).map((r) => r.fact)).toEqual(['boxes:10', 'boxes-top:10', 'boxes-below:10', 'start:1']);
  const row = rows[4];
  expect([row?.kind, row?.answer_mode, row?.given, row?.observed]).toEqual([
    'match',
    'build',
    '2',
    ':second-row-too-soon',
  ]);
});

test('another child sat there: the answer goes to the right one, and the sitting goes on @long', async ({
  signedIn: page,
}) => {
  const [odo, fenn] = [await recordOf(page, 'Odo'), await recordOf(page, 'Fenn')];
  await chooseRoutine(page, 'Odo', 'sums');
  await begin(page, 'Odo');
  await nextShow(page);
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'More …' }).click();
  await page.getByRole('menuitem', { name: 'It was …' }).click();
  await page.getByRole('menuitem', { name: 'Fenn' }).click();
  await nextShow(page);
  await page.keyboard.press('5');
  await endSession(page);
  await expect(page.getByRole('heading', { name: 'Thank you, Fenn.' })).toBeVisible();
  expect((await newResponses(page, 'Fenn', fenn, 2)).map((r) => r.given)).toEqual(['4', '5']);
  expect((await recordOf(page, 'Odo')).responses.length).toBe(odo.responses.length);
});

test('the class together: only who was seen counting is noted, and none of it counts @long', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Zadie');
  await chooseRoutine(page, 'Zadie', 'hide-and-picture');
  await page.getByRole('radio', { name: 'all together' }).click();
  await begin(page, 'the whole class');
  // The card is looked at together, then hidden.
  await nextShow(page);
  await page.keyboard.press('Space');
  await expect(page.getByText(/“Picture it\. /)).toBeVisible();
  await nextShow(page);
  await page.getByRole('group', { name: 'Seen counting' }).getByRole('button', { name: 'Zadie' }).click();
  await page.keyboard.press('Space');
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  await endSession(page);
  await expect(page.getByRole('heading', { name: 'Thank you, everyone.' })).toBeVisible();
  const [row] = await newResponses(page, 'Zadie', before, 1);
  expect([row?.void, row?.observed, row?.outcome]).toEqual(['choral', 'counted', 'none']);
});
