import { ROUTINES, WORD_CHOICES } from '@vane/core';
import type { RecordRow } from '@vane/contract';
import { classOf, expect, newResponses, recordOf, shown, stage, test } from '../vane';

/** Kinds and aids that a routine's first questions are recorded under. */
const RECORDED: Record<string, readonly (readonly [RecordRow['kind'], RecordRow['aid']])[]> = {
  'flash-and-say': [
    ['show', 'none'],
    ['show', 'none'],
    ['show', 'none'],
  ],
  'changing-frame': [
    ['show', 'none'],
    ['missing', 'picture'],
    ['show', 'none'],
  ],
  'to-five': [
    ['missing', 'none'],
    ['missing', 'none'],
    ['missing', 'none'],
  ],
  'hide-and-picture': [
    ['missing', 'none'],
    ['missing', 'none'],
    ['missing', 'none'],
  ],
  'ten-card': [
    ['show', 'none'],
    ['missing', 'picture'],
    ['subtract', 'picture'],
  ],
  'folded-fingers': [
    ['missing', 'none'],
    ['missing', 'none'],
    ['missing', 'none'],
  ],
  'part-whole': [
    ['add', 'none'],
    ['bond', 'none'],
    ['bond', 'none'],
  ],
  'crossed-off': [
    ['subtract', 'picture'],
    ['subtract', 'picture'],
    ['subtract', 'picture'],
  ],
  story: [
    ['add', 'picture'],
    ['add', 'none'],
    ['add', 'picture'],
  ],
  sums: [
    ['add', 'none'],
    ['add', 'none'],
    ['add', 'none'],
  ],
  doubles: [
    ['add', 'none'],
    ['add', 'none'],
    ['add', 'none'],
  ],
  'take-away': [
    ['subtract', 'none'],
    ['subtract', 'none'],
    ['subtract', 'none'],
  ],
  'missing-part': [
    ['missing', 'none'],
    ['missing', 'none'],
    ['missing', 'none'],
  ],
  family: [
    ['add', 'none'],
    ['add', 'none'],
    ['subtract', 'none'],
  ],
};

test('every routine is played by keyboard, down to its record in the database', async ({ signedIn: page }) => {
  test.setTimeout(400_000);
  for (const routine of ROUTINES) {
    const before = await recordOf(page, 'Teodor');
    await page.goto('/carpet');
    await page.getByRole('combobox', { name: 'Child' }).click();
    await page.getByRole('option', { name: 'Teodor' }).click();
    await page.getByRole('combobox', { name: 'Routine' }).click();
    await page.getByRole('option', { name: routine.title, exact: true }).click();
    await expect(page.getByRole('heading', { name: routine.title, exact: true })).toBeVisible();
    await page.getByRole('radio', { name: 'none', exact: true }).click();
    await page.getByRole('button', { name: 'Begin with Teodor' }).click();
    for (let i = 0; i < 3; i++) {
      await page.keyboard.press('Space');
      await shown(page);
      await page.keyboard.press('3');
      await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    }
    await page.getByRole('button', { name: 'End here' }).click();
    const rows = await newResponses(page, 'Teodor', before, 3);
    expect([routine.id, rows.map((r) => [r.kind, r.aid])]).toEqual([routine.id, RECORDED[routine.id]]);
    expect(rows.every((r) => r.given === '3' && r.response_ms !== null)).toBe(true);
  }
});

test('a class’s own words are kept, and used in what is to be said', async ({ signedIn: page }) => {
  await page.goto('/carpet');
  await page.getByRole('combobox', { name: 'Routine' }).click();
  await page.getByRole('option', { name: 'Sums', exact: true }).click();
  await page.getByText('Words of this class').click();
  await page.getByRole('combobox', { name: 'plus sign' }).click();
  await page.getByRole('option', { name: WORD_CHOICES.plus[1], exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await page.getByRole('button', { name: /^Begin with/ }).click();
  await page.keyboard.press('Space');
  await shown(page);
  await expect(page.getByText(/“\d+ plus \d+ makes what\?”/)).toBeVisible();
  await page.getByRole('button', { name: 'End here' }).click();
  await expect.poll(async () => (await classOf(page)).carpet.words.plus).toBe('plus');
});

test('the stage holds nothing to read but the thing to see @both', async ({ signedIn: page }) => {
  await page.goto('/carpet');
  await page.getByRole('combobox', { name: 'Routine' }).click();
  await page.getByRole('option', { name: 'Crossed off' }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await page.getByRole('button', { name: /^Begin with/ }).click();
  await page.getByRole('button', { name: /^Show/ }).click();
  await shown(page);
  expect((await stage(page).textContent())?.trim()).toBe('');
  const [box, view] = [await stage(page).boundingBox(), page.viewportSize()];
  expect((box?.width ?? 0) * (box?.height ?? 0)).toBeGreaterThan(0.5 * (view?.width ?? 0) * (view?.height ?? 0));
});

test('three children in turn, each on its own questions; one goes later, one leaves; every answer is its own child’s', async ({ signedIn: page }) => {
  const before = new Map<string, Awaited<ReturnType<typeof recordOf>>>();
  for (const name of ['Linnet', 'Rafi', 'Mirren']) before.set(name, await recordOf(page, name));
  await page.goto('/carpet');
  await page.getByRole('combobox', { name: 'Child' }).click();
  await page.getByRole('option', { name: 'Linnet' }).click();
  await page.getByRole('combobox', { name: 'Others in turn' }).click();
  for (const name of ['Mirren', 'Rafi']) await page.getByRole('option', { name }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: '5', exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await page.getByRole('button', { name: 'Begin with Linnet, Mirren and Rafi' }).click();
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
  await expect(line.getByRole('button', { name: /^Linnet, had 1, away: put back/ })).toBeVisible();
  await expect(page.getByText('Mirren’s turn.')).toBeVisible();
  await page.getByRole('button', { name: 'End here' }).click();
  await expect(page.getByRole('heading', { name: 'Thank you, all.' })).toBeVisible();
  for (const [name, record] of before) expect((await newResponses(page, name, record, 1))[0]?.given).toBe('3');
});
