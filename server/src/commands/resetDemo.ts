import { openDatabase } from '../db/orm';
import { loadDemo, removeDemo } from '../demo/load';

/** `./vane reset-demo`: takes the demo away and loads it anew, up to today. Other schools are not touched. */
const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set: use "./vane reset-demo"');
const orm = await openDatabase(url);
await removeDemo(orm.em.fork());
await loadDemo(orm.em.fork(), new Date());
await orm.close();
process.stdout.write('The harbour demo is as new.\n');
