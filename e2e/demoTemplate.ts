import { administer, inDatabase, TEMPLATE, VaneServer } from './server';

/** Loads the harbour demo once; every test file then copies it, which takes a tenth of a second. */
export default async function demoTemplate(): Promise<void> {
  await administer(`drop database if exists ${TEMPLATE}`, `create database ${TEMPLATE}`);
  const server = await VaneServer.on(TEMPLATE, { demo: true });
  await server.stop();
  // What to mind is shown once to every adult, before anything else: the demo's has read it, whoever joins has not.
  await inDatabase(TEMPLATE, 'update adult set care_read_at = now()');
}
