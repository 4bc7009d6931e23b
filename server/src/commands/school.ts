import { setUpRequest } from '@vane/contract';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { pino } from 'pino';
import * as z from 'zod';
import { openNamed, type Database } from '../db/database';
import { UUID } from '../db/keys';
import { readEnvironment, type Environment } from '../environment';
import { orEnd } from '../problems/cannotStart';
import { audit } from '../request/audit';
import { deleteSchool, exportSchool, importSchool, setClosed } from '../school/carry';
import {
  inviteLead,
  limitSchool,
  openSchool,
  schoolNamed,
  schoolsHere,
  SchoolTrouble,
  SERVICE,
} from '../school/schools';
import { fail } from './files';

/** `./vane school …`: for whoever runs Vane for more than one school. */
const USAGE = `usage: ./vane school list
       ./vane school add NAME --lead NAME --email ADDRESS [--time-zone Europe/London]
       ./vane school invite ID --lead NAME --email ADDRESS
       ./vane school limit ID [--children N|any] [--reply-to ADDRESS|nobody]
       ./vane school export ID FILE [--stay-open]
       ./vane school import FILE
       ./vane school reopen ID
       ./vane school delete ID --name NAME`;

function read() {
  try {
    return parseArgs({
      allowPositionals: true,
      options: {
        lead: { type: 'string' },
        email: { type: 'string' },
        name: { type: 'string' },
        children: { type: 'string' },
        'reply-to': { type: 'string' },
        'time-zone': { type: 'string' },
        'stay-open': { type: 'boolean', default: false },
      },
    });
  } catch (error) {
    return fail(`${error instanceof Error ? error.message : String(error)}\n${USAGE}`);
  }
}
const {
  positionals: [what = '', which = '', into = ''],
  values,
} = read();
/** As the set-up page takes them. */
const { name: personName, email: address, school: schoolName, timeZone: zone } = setUpRequest.shape;
const most = z
  .literal('any')
  .transform(() => null)
  .or(z.coerce.number().int().min(1).max(1_000_000));
const replies = z
  .literal('nobody')
  .transform(() => null)
  .or(address);

function good<T>(
  name: string,
  schema: { safeParse: (text: unknown) => { success: boolean; data?: T } },
  text: string | undefined,
): T {
  const read = schema.safeParse(text);
  if (!read.success) fail(`${name}: "${text ?? ''}" will not do\n${USAGE}`);
  return read.data as T;
}
const leadNamed = () => ({
  name: good('--lead', personName, values.lead),
  email: good('--email', address, values.email),
});
const schoolId = (): string =>
  UUID.test(which) ? which : fail(`"${which}" is no school's id: "./vane school list" has them\n${USAGE}`);
const fileNamed = (text: string): string => (text === '' ? fail(`FILE is missing\n${USAGE}`) : resolve(text));
const print = (text: string): void => void process.stdout.write(`${text}\n`);
const now = (): Date => new Date();
const counted = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`;

async function list({ orm }: Database): Promise<void> {
  const schools = await schoolsHere(orm.em.fork());
  if (schools.length === 0) print('No school yet: the page /set-up makes the first.');
  for (const one of schools) {
    const most = one.mostChildren === null ? '' : ` (at most ${one.mostChildren})`;
    const more = [
      `${counted(one.adults, 'adult', 'adults')}, ${counted(one.classes, 'class', 'classes')}, ${counted(one.children, 'child', 'children')}${most}`,
      ...(one.replyTo === null ? [] : [`replies go to ${one.replyTo}`]),
      ...(one.failed === 0 ? [] : [`FAILED: ${counted(one.failed, 'piece', 'pieces')} of work, see the worker's log`]),
      ...(one.closedAt === null ? [] : [`CLOSED since ${one.closedAt}, to be carried elsewhere`]),
    ];
    print(`${one.id}  ${one.name}: ${more.join('; ')}`);
  }
}

/** What is to be done, once its words have been read: nothing is opened for a wish that will not do. */
function wished(env: Environment): (database: Database) => Promise<void> {
  const vane = env.VANE_URL ?? `http://127.0.0.1:${env.VANE_PORT}`;
  const linkFor = (lead: { name: string }, token: string): void =>
    print(`${lead.name} joins by this link, which works once, within a week:\n${vane}/join/${token}`);
  switch (what) {
    case 'list':
      return list;
    case 'add': {
      const name = good('NAME', schoolName, which);
      const [timeZone, lead] = [good('--time-zone', zone, values['time-zone']), leadNamed()];
      return async ({ orm }) => linkFor(lead, (await openSchool(orm.em.fork(), now(), { name, timeZone, lead })).token);
    }
    case 'invite': {
      const [id, lead] = [schoolId(), leadNamed()];
      return async ({ orm }) => linkFor(lead, await inviteLead(orm.em.fork(), now(), id, lead));
    }
    case 'limit': {
      const id = schoolId();
      const { children, 'reply-to': replyTo } = values;
      if (children === undefined && replyTo === undefined) fail(`nothing to change\n${USAGE}`);
      const change = {
        ...(children !== undefined && { mostChildren: good('--children', most, children) }),
        ...(replyTo !== undefined && { replyTo: good('--reply-to', replies, replyTo) }),
      };
      return async ({ orm }) => {
        await limitSchool(orm.em.fork(), now(), id, change);
        print('Changed; it stands in the school’s activity.');
      };
    }
    case 'export': {
      const [id, file, open] = [schoolId(), fileNamed(into), values['stay-open']];
      return async (database) => {
        const { name, rows } = await exportSchool(database, id, file, now(), !open);
        print(
          `${name}: ${rows} rows are in ${file}. It holds names, answers and password hashes: keep it as you keep passwords.`,
        );
        if (!open)
          print(
            `The school is closed here; its devices keep what is marked. "./vane school import" takes the file in at the other Vane; then lead the school's host name there, and delete it here. "./vane school reopen ${id}" opens it here again.`,
          );
      };
    }
    case 'import': {
      const file = fileNamed(which);
      return async (database) => {
        const { id, name, rows } = await importSchool(database, file, now());
        print(`${name} is here: ${rows} rows, counted and compared. Its id: ${id}. Now lead its host name here.`);
      };
    }
    case 'reopen': {
      const id = schoolId();
      return async (database) => {
        const { name } = await schoolNamed(database.orm.em.fork(), id);
        await setClosed(database, id, null);
        await audit(database.orm.em.fork(), { schoolId: id, ...SERVICE }, now(), 'school reopened');
        print(`${name} is open. If it was taken in elsewhere meanwhile, delete it there.`);
      };
    }
    case 'delete': {
      const [id, name] = [schoolId(), good('--name', schoolName, values.name)];
      return async (database) => {
        const { rows } = await deleteSchool(database, id, name);
        print(`${name} is deleted: ${rows} rows. Backups and exported files still hold it.`);
      };
    }
    default:
      return fail(USAGE);
  }
}

const env = await orEnd(() => readEnvironment(process.env));
const act = wished(env);
const database = await orEnd(() => openNamed(env, pino({ level: 'warn' }, pino.destination(2))));
try {
  await act(database);
} catch (error) {
  if (!(error instanceof SchoolTrouble) && !isOfFile(error)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
await database.close();

/** A file that is not there or cannot be written. */
function isOfFile(error: unknown): error is Error {
  return error instanceof Error && 'syscall' in error && 'path' in error;
}
