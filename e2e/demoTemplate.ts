import { expect, request } from '@playwright/test';
import type { Me, OverTime } from '@vane/contract';
import { administer, DEMO, exists, inDatabase, TEMPLATE, VaneServer } from './server';

/** Loads the harbour demo once for all runs on a cluster; every worker then copies it, which takes a tenth of a second. */
export default async function demoTemplate(): Promise<void> {
  if (await exists(TEMPLATE)) return;
  const making = `${TEMPLATE}_making`;
  await administer(`drop database if exists ${making}`, `create database ${making}`);
  const server = await VaneServer.on(making, { demo: true });
  // Weeks past are judged once, here, and not again by every worker.
  const page = await request.newContext({ baseURL: server.url });
  await page.post('/api/sign-in', { data: DEMO });
  const { classes } = (await (await page.get('/api/me')).json()) as Me;
  for (const { id } of classes)
    await expect
      .poll(async () => ((await (await page.get(`/api/classes/${id}/over-time`)).json()) as OverTime).pending, {
        timeout: 120_000,
      })
      .toBe(0);
  await page.dispose();
  await server.stop();
  // Safety guidance is shown once to every adult, before anything else: the demo's has read it, whoever joins has not.
  await inDatabase(making, 'update adult set care_read_at = now()');
  await administer(`alter database ${making} rename to ${TEMPLATE}`);
}
