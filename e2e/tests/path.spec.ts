import {
  openSettings,
  nextShow,
  begin,
  beginSitting,
  classOf,
  DEMO,
  expect,
  newResponses,
  number,
  onStage,
  recordOf,
  shown,
  stage,
  test,
  refused,
  endSession,
} from '../vane';

/** The whole way of a first morning, with a mouse and with a finger. */
test('a teacher signs in, flashes ten frames to one child, and sees what changed @touch', async ({
  page,
  hasTouch,
}) => {
  const press = async (target: ReturnType<typeof number>): Promise<void> => (hasTouch ? target.tap() : target.click());

  await page.goto('/');
  await press(page.getByRole('button', { name: 'Use the demo sign-in' }));
  await expect(page.getByRole('heading', { name: 'Today', exact: true })).toBeVisible();

  const name = hasTouch ? 'Cleo' : 'Sorrel';
  await press(page.getByRole('list', { name: 'Planned sessions' }).getByRole('button', { name, exact: true }));
  await press(page.getByRole('menuitem', { name: 'Choose another routine' }));
  await expect(page.getByRole('combobox', { name: 'Child' })).toHaveText(name);
  await press(page.getByRole('button', { name: /^Settings .*usual/ }));
  await press(page.getByRole('radio', { name: '5', exact: true }));
  await press(page.getByRole('radio', { name: 'numbers to name' }));
  await press(page.getByRole('combobox', { name: 'Show for' }));
  await press(page.getByRole('option', { name: '0.75 s' }));
  const before = await recordOf(page, name);
  await press(page.getByRole('button', { name: `Begin with ${name}` }));

  for (let trial = 0; trial < 9; trial++) {
    await shown(page);
    await press(number(page, await onStage(page)));
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    // A sign told afterwards, once.
    if (trial === 6) await press(page.getByRole('button', { name: /^knew it/ }));
    await press(page.getByRole('button', { name: trial < 8 ? /^Next/ : /^Finish/ }));
  }
  await expect(page.getByRole('heading', { name: `Thank you, ${name}.` })).toBeVisible();

  const recorded = await newResponses(page, name, before, 9);
  // Something real first, then the numerals, one between two real ones.
  expect(recorded.map((r) => r.kind)).toEqual(Array.from({ length: 9 }, (_, i) => (i % 2 === 0 ? 'show' : 'match')));
  expect(
    recorded.every(
      (r) => r.outcome === 'correct' && r.answer_mode === 'tap' && r.response_ms !== null && r.response_ms > 0,
    ),
  ).toBe(true);
  for (const row of recorded.filter((r) => r.kind === 'show')) {
    expect(row.quality?.asked_ms).toBe(750);
    expect(row.quality?.frames_ms.length).toBeGreaterThan(1);
  }
  expect(recorded[6]?.observed).toBe('knew');

  await press(page.getByRole('button', { name: 'See what changed' }));
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  const shownFact = recorded[8]?.fact ?? '';
  const n = shownFact.split(':')[1] ?? '';
  await press(page.getByRole('button', { name: new RegExp(`^${n} on a frame by fives:`) }));
  const evidence = page.getByRole('region', { name: 'Evidence' });
  await expect(evidence.getByRole('heading')).toContainText(`${n} on a frame by fives.`);
  await expect(evidence).toContainText(/answers? (were|was) right/);
  const all =
    before.responses.filter((r) => r.fact === shownFact).length + recorded.filter((r) => r.fact === shownFact).length;
  await press(evidence.locator('summary').filter({ hasText: /^All / }));
  await expect(evidence.locator('tbody tr')).toHaveCount(all);
});

test('sets to count are asked for when the pace is not known, stay in view, and are recorded as counts @long', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Yusra');
  await page.goto('/carpet');
  await page.getByRole('combobox', { name: 'Child' }).click();
  await page.getByRole('option', { name: 'Yusra' }).click();
  await openSettings(page);
  await page.getByRole('radio', { name: 'sets to count' }).click();
  await expect(page.getByText('Four sets to count come between the questions')).toBeVisible();
  await page.getByRole('radio', { name: '5', exact: true }).click();
  await begin(page, 'Yusra');
  await nextShow(page);
  await page.keyboard.press('1');
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  for (let trial = 0; trial < 4; trial++) {
    await nextShow(page);
    await expect(page.getByText('“Count these. How many are there?”')).toBeVisible();
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    await nextShow(page);
    await page.keyboard.press('1');
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await endSession(page);
  const rows = (await newResponses(page, 'Yusra', before, 9)).filter((r) => r.kind === 'count');
  expect(rows).toHaveLength(4);
  expect(rows.every((r) => r.kind === 'count' && r.outcome === 'correct' && r.quality?.asked_ms === null)).toBe(true);
});

test('an expired sign-in leads to the door, a wrong password says so, and signing out closes it', async ({
  page,
  expectSaid,
}) => {
  expectSaid(refused(401));
  await page.goto('/log');
  await expect(page).toHaveURL(/sign-in/);
  await page.getByLabel('E-mail').fill(DEMO.email);
  await page.getByLabel('Password').fill('not the lanterns');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText(/password/i);
  await page.getByLabel('Password').fill(DEMO.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page).toHaveURL(/today/);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
  expect((await page.request.get('/api/me')).status()).toBe(401);
});

test('with the keyboard alone: a spoken sitting with signs, second look, undo, void and pause', async ({
  signedIn: page,
}) => {
  const before = await recordOf(page, 'Ivo');
  await beginSitting(page, { child: 'Ivo', answers: 'says it, you enter it', warmUp: false, shows: 5 });
  const key = (name: string): Promise<void> => page.keyboard.press(name);
  const digit = (n: number): string => (n === 10 ? 't' : String(n));
  const answered = (): Promise<void> => expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  const speak = async (): Promise<void> => {
    await shown(page);
    await key('Space');
    await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
  };

  // 1: spoken, then marked; the sign and a finer one; the mark taken back and put right, its time kept.
  await nextShow(page);
  await speak();
  const first = await onStage(page);
  await key(digit(first === 1 ? 2 : 1));
  await answered();
  await key('Backspace');
  await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
  await key(digit(first));
  await answered();
  await key('k');
  await key('l');
  // 2: nothing comes; a second look brings it.
  await nextShow(page);
  await key('s');
  await shown(page);
  const second = await onStage(page);
  await speak();
  await key(digit(second));
  await answered();
  // 3: spoiled afterwards.
  await nextShow(page);
  await speak();
  await key(digit(await onStage(page)));
  await answered();
  await key('v');
  // 4: paused while asking, gone on with, and no answer in the end.
  await nextShow(page);
  await key('Escape');
  await expect(page.getByText('Paused', { exact: true })).toBeVisible();
  await key('5');
  await expect(stage(page)).not.toHaveAttribute('data-phase', 'feedback');
  await key('Escape');
  await key('n');
  await answered();
  // 5: the list of keys neither marks nor disturbs.
  await nextShow(page);
  await key('?');
  await expect(page.getByRole('dialog', { name: 'Keys on the carpet' })).toBeVisible();
  await key('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await key('Space');
  await key(digit(await onStage(page)));
  await answered();
  await key('Space');
  await expect(page.getByRole('heading', { name: 'Thank you, Ivo.' })).toBeVisible();

  const rows = await newResponses(page, 'Ivo', before, 7);
  expect(rows.every((r) => r.answer_mode === 'spoken')).toBe(true);
  const [wrong, right, none, looked, spoiled, paused, last] = rows;
  expect(wrong).toMatchObject({ void: 'undone', outcome: 'wrong' });
  expect(right).toMatchObject({
    void: '',
    outcome: 'correct',
    observed: 'counted:lips',
    response_ms: wrong?.response_ms,
  });
  expect(right?.fact).toBe(wrong?.fact);
  expect(none).toMatchObject({ outcome: 'none', given: '', response_ms: null, aid: 'none' });
  expect(looked).toMatchObject({ fact: none?.fact, outcome: 'correct', aid: 'second-look' });
  expect(spoiled).toMatchObject({ void: 'spoiled', outcome: 'correct' });
  expect(paused).toMatchObject({ outcome: 'none' });
  expect(paused?.flags).toContain('paused');
  expect(last).toMatchObject({ outcome: 'correct', void: '' });
});

test('the settings of the carpet are remembered for the class @long', async ({ signedIn: page }) => {
  await beginSitting(page, { child: 'Odo', picture: 'five frame', seenFor: '0.5 s', shows: 5, warmUp: false });
  await endSession(page);
  await page.getByRole('button', { name: 'Back to Today' }).click();
  await expect(page).toHaveURL(/today/);
  await expect
    .poll(async () => (await classOf(page)).carpet)
    .toMatchObject({ layout: 'five', exposureMs: 500, shows: 5 });
  await page.goto('/carpet');
  await expect(page.getByRole('button', { name: /^Settings not as usual: five frame, shown for 0.5 s/ })).toBeVisible();
  await openSettings(page);
  await expect(page.getByRole('combobox', { name: 'Layout' })).toHaveText('five frame');
  await expect(page.getByRole('combobox', { name: 'Show for' })).toHaveText('0.5 s');
});
