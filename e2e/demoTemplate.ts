import { administer, exists, inDatabase, TEMPLATE, VaneServer } from './server';

/** Loads the harbour demo once for all runs on a cluster; every worker then copies it, which takes a tenth of a second. */
export default async function demoTemplate(): Promise<void> {
  if (await exists(TEMPLATE)) return;
  const making = `${TEMPLATE}_making`;
  await administer(`drop database if exists ${making}`, `create database ${making}`);
  const server = await VaneServer.on(making, { demo: true });
  await server.stop();
  // What to mind is shown once to every adult, before anything else: the demo's has read it, whoever joins has not.
  await inDatabase(making, 'update adult set care_read_at = now()');
  await administer(`alter database ${making} rename to ${TEMPLATE}`);
}
