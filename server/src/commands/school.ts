import { setUpRequest } from '@vane/contract';
import { parseArgs } from 'node:util';
import { pino } from 'pino';
import { UUID } from '../db/keys';
import { openShards } from '../db/openShards';
import { FIRST, type Shard, type Shards } from '../db/shards';
import { readEnvironment, type Environment } from '../environment';
import { orEnd } from '../problems/cannotStart';
import { fail } from './files';
import { newServiceKey } from '../service/serviceKeys';
import { moveSchool } from '../school/moveSchool';
import { inviteLead, openSchool, schoolsHere, SchoolTrouble } from '../school/openSchool';

/** `./vane school …`: for whoever runs Vane for more than one school. */
const USAGE = `usage: ./vane school list
       ./vane school add NAME --lead NAME --email ADDRESS [--time-zone Europe/London] [--shard NAME]
       ./vane school invite ID --lead NAME --email ADDRESS
       ./vane school move ID --shard NAME
       ./vane school page`;

function read() {
  try {
    return parseArgs({
      allowPositionals: true,
      options: {
        lead: { type: 'string' },
        email: { type: 'string' },
        'time-zone': { type: 'string' },
        shard: { type: 'string' },
      },
    });
  } catch (error) {
    return fail(`${error instanceof Error ? error.message : String(error)}\n${USAGE}`);
  }
}
const {
  positionals: [what = '', which = ''],
  values,
} = read();
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
const leadNamed = () => ({
  name: good('--lead', personName, values.lead),
  email: good('--email', address, values.email),
});
const schoolId = (): string =>
  UUID.test(which) ? which : fail(`"${which}" is no school's id: "./vane school list" has them\n${USAGE}`);
function shardNamed(shards: Shards, name: string | undefined): Shard {
  const found = shards.all.find((shard) => shard.name === (name ?? FIRST));
  const names = shards.all.map((shard) => shard.name).join(', ');
  if (!found) throw new SchoolTrouble(`There is no shard "${name}": VANE_SHARDS names them. Here: ${names}.`);
  return found;
}
const print = (text: string): void => void process.stdout.write(`${text}\n`);
const now = (): Date => new Date();

/** What is to be done, once its words have been read: nothing is opened for a wish that will not do. */
function wished(env: Environment): (shards: Shards) => Promise<void> {
  const vane = env.VANE_URL ?? `http://127.0.0.1:${env.VANE_PORT}`;
  const linkFor = (lead: { name: string }, token: string): void =>
    print(`${lead.name} joins by this link, which works once, within a week:\n${vane}/join/${token}`);
  switch (what) {
    case 'list':
      return async (shards) => {
        const schools = await schoolsHere(shards);
        if (schools.length === 0) print('No school yet: the page /set-up makes the first.');
        for (const one of schools) {
          const where = shards.all.length > 1 ? `, in the shard ${one.shard}` : '';
          const moving = one.movingAt ? `, BEING MOVED since ${one.movingAt.toISOString()}` : '';
          print(
            `${one.id}  ${one.name}: ${one.adults} adults, ${one.classes} classes, ${one.children} children${where}${moving}`,
          );
        }
      };
    case 'add': {
      const [name, timeZone, lead] = [
        good('NAME', schoolName, which),
        good('--time-zone', zone, values['time-zone']),
        leadNamed(),
      ];
      return async (shards) => {
        const { token } = await openSchool(shards, now(), { name, timeZone, lead }, shardNamed(shards, values.shard));
        linkFor(lead, token);
      };
    }
    case 'invite': {
      const [id, lead] = [schoolId(), leadNamed()];
      return async (shards) => linkFor(lead, await inviteLead(shards, now(), id, lead));
    }
    case 'move': {
      const id = schoolId();
      if (values.shard === undefined) fail(`--shard is missing\n${USAGE}`);
      return async (shards) => {
        const to = shardNamed(shards, values.shard);
        const { rows, closedMs } = await moveSchool(shards, id, to, now);
        print(
          rows === 0
            ? `The school is in the shard ${to.name}: there was nothing to move.`
            : `Moved to the shard ${to.name}: ${rows} rows. Nobody could use the school for ${(closedMs / 1000).toFixed(1)} s.`,
        );
      };
    }
    case 'page':
      return async (shards) => {
        const token = await newServiceKey(shards.first.orm.em.fork(), now());
        print(`Schools can be opened and looked after on this page, for twelve hours:\n${vane}/service#${token}`);
      };
    default:
      return fail(USAGE);
  }
}

const env = await orEnd(() => readEnvironment(process.env));
const act = wished(env);
const shards = await orEnd(() => openShards(env, pino({ level: 'warn' }, pino.destination(2))));
try {
  await act(shards);
} catch (error) {
  if (!(error instanceof SchoolTrouble)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
await shards.close();
