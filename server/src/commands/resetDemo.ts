import { openDatabase } from '../db/orm';
import { loadDemo, removeDemo } from '../demo/load';
import { isDemo } from '../db/demoSchool';

/** `./vane reset-demo`: deletes the demo and loads it again, up to today; in a database with a real school it does nothing. */
const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set: use "./vane reset-demo"');
const orm = await openDatabase(url);
if (await isDemo(orm.em.fork())) await removeDemo(orm.em.fork());
const loaded = await loadDemo(orm.em.fork(), new Date());
await orm.close();
if (loaded) process.stdout.write('The harbour demo is as new.\n');
else {
  process.stderr.write('There is a school in this database: the demo is not loaded beside it. Nothing was changed.\n');
  process.exitCode = 1;
}
