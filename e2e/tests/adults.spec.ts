import type { Me, SchoolView } from '@vane/contract';
import { sound } from '../sound';
import { DEMO, expect, freshServer, refused, test } from '../vane';

test('an adult without a class is told whom to ask, and goes on once they have one @long', async ({
  browser,
  expectSaid,
}) => {
  expectSaid(refused(403));
  const { server, drop } = await freshServer('demo');
  const lead = (await browser.newContext({ baseURL: server.url })).request;
  await lead.post('/api/sign-in', { data: DEMO });
  const invited = await lead.post('/api/school/invites', {
    data: { name: 'Mate', email: 'mate@saltmarsh.example', role: 'teacher', classes: [] },
  });
  const { link } = (await invited.json()) as { link: string };
  const mate = await browser.newContext({ baseURL: server.url, reducedMotion: 'reduce' });
  const token = link.split('/join/')[1];
  await mate.request.post('/api/join', { data: { token, name: 'Mate', password: 'herring-boxes-and-tar' } });
  await mate.request.post('/api/me/care-read', { data: {} });
  const page = await mate.newPage();
  for (const path of ['/log', '/carpet', '/children', '/today']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: 'No class yet', exact: true })).toBeVisible();
  }
  await sound(page, 'no class');
  await page.goto('/school');
  await expect(page.getByText('Only the school’s lead can do this')).toBeVisible();
  await expect(page.getByRole('button', { name: /Add a class|Try again/ })).toHaveCount(0);
  await page.goto('/today');
  await page.getByRole('button', { name: 'Look again' }).click();
  await expect(page.getByText('Still no class.')).toBeVisible();
  const { adults } = (await (await lead.get('/api/school')).json()) as SchoolView;
  const { classes } = (await (await lead.get('/api/me')).json()) as Me;
  const id = adults.find(({ name }) => name === 'Mate')?.id ?? '';
  const given = await lead.put(`/api/school/adults/${id}`, { data: { classes: [classes[0]?.id] } });
  expect(given.status()).toBe(204);
  await page.getByRole('button', { name: 'Look again' }).click();
  await expect(page.getByRole('heading', { name: 'Today', exact: true })).toBeVisible();
  await mate.close();
  await drop();
});
