import { administer, TEMPLATE, VaneServer } from './server';

/** Loads the harbour demo once; every test file then copies it, which takes a tenth of a second. */
export default async function demoTemplate(): Promise<void> {
  await administer(`drop database if exists ${TEMPLATE}`, `create database ${TEMPLATE}`);
  const server = await VaneServer.on(TEMPLATE, { demo: true });
  await server.stop();
}
