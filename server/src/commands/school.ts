import { setUpRequest } from '@vane/contract';
import { parseArgs } from 'node:util';
import { isDemo } from '../db/demoSchool';
import { UUID } from '../db/keys';
import { openDatabase } from '../db/orm';
import { fail } from './files';
import { inviteLead, openSchool, schoolsHere, SchoolTrouble } from '../school/openSchool';

/** `./vane school …`: for whoever runs Vane for more than one school. */
const USAGE = `usage: ./vane school list
       ./vane school add NAME --lead NAME --email ADDRESS [--time-zone Europe/London]
       ./vane school invite ID --lead NAME --email ADDRESS`;
const url = process.env['DATABASE_URL'];

function read() {
  try {
    return parseArgs({
      allowPositionals: true,
      options: { lead: { type: 'string' }, email: { type: 'string' }, 'time-zone': { type: 'string' } },
    });
  } catch (error) {
    return fail(`${error instanceof Error ? error.message : String(error)}\n${USAGE}`);
  }
}
const {
  positionals: [what, which = ''],
  values,
} = read();
const { VANE_URL: publicUrl, VANE_PORT: port = '8263' } = process.env;
/** As the set-up page takes them. */
const { name: personName, email: address, school: schoolName, timeZone: zone } = setUpRequest.shape;
function good<T>(
  name: string,
  schema: { safeParse: (text: unknown) => { success: boolean; data?: T } },
  text: string | undefined,
): T {
  const read = schema.safeParse(text);
  if (!read.success) fail(`${name}: "${text ?? ''}" will not do\n${USAGE}`);
  return read.data as T;
}
if (!url || !(what === 'list' || what === 'add' || what === 'invite')) fail(USAGE);
const lead =
  what === 'list'
    ? null
    : { name: good('--lead', personName, values.lead), email: good('--email', address, values.email) };
const timeZone = good('--time-zone', zone, values['time-zone']);
if (what === 'invite' && !UUID.test(which))
  fail(`"${which}" is no school's id: "./vane school list" has them\n${USAGE}`);

const orm = await openDatabase(url);
const em = orm.em.fork();
try {
  if (lead === null) {
    const schools = await schoolsHere(em);
    if (schools.length === 0) process.stdout.write('No school yet: the page /set-up makes the first.\n');
    for (const one of schools)
      process.stdout.write(
        `${one.id}  ${one.name}: ${one.adults} adults, ${one.classes} classes, ${one.children} children\n`,
      );
  } else {
    if (await isDemo(em))
      throw new SchoolTrouble(
        'Only the demo is here. Set up the first school in its place on the page /set-up, then add others.',
      );
    const token =
      what === 'add'
        ? (await openSchool(em, new Date(), { name: good('NAME', schoolName, which), timeZone, lead })).token
        : await inviteLead(em, new Date(), which, lead);
    const vane = publicUrl ?? `http://127.0.0.1:${port}`;
    process.stdout.write(`${lead.name} joins by this link, which works once, within a week:\n${vane}/join/${token}\n`);
  }
} catch (error) {
  if (!(error instanceof SchoolTrouble)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
await orm.close();
