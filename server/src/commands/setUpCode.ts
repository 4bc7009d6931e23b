import { connect } from '../db/orm';
import { newSetUpCode, waitsForSetUp } from '../school/setUpCode';

/** `./vane set-up`: shows a new code for setting up the first school; the one before is good no more. */
const orm = await connect(process.env['DATABASE_URL'] ?? '');
try {
  const em = orm.em.fork();
  if (await waitsForSetUp(em)) process.stdout.write(`The code for setting up: ${await newSetUpCode(em, new Date())}\n`);
  else process.stdout.write('A school is set up here already; ./vane school add opens another.\n');
} finally {
  await orm.close();
}
