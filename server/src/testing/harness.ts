import type { MikroORM } from '@mikro-orm/postgresql';
import { ROUTES, wrongIn, type RouteName, type Statement } from '@vane/contract';
import type { Hono } from 'hono';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { pino } from 'pino';
import { MailFolder, type Letter, type Mail } from '../outside/mail';
import { createApp } from '../app';
import type { Deps, Env } from '../request/context';
import { MIGRATION_NAMES, openDatabase } from '../db/orm';
import { Readers } from '../db/readers';
import { tryRoster } from '../files/readRoster';
import { pdfOf } from '../threads/pdf';
import { harbourRoster } from '../demo/harbourRoster';
import { judgeHere } from '../threads/judgeThreads';
import { workOf } from '../work';
import { JobsHere } from './jobsHere';

/** A server on a database of its own in the tests' cluster, which scripts/test.mjs starts. */
const base = process.env['VANE_TEST_DATABASE_URL'];
let made = 0;

export interface Harness {
  readonly app: Hono<Env>;
  readonly orm: MikroORM;
  /** What was posted. */
  readonly letters: readonly Letter[];
  /** So many letters: an answer does not wait for its letter, which comes a little later. */
  posted(count: number): Promise<readonly Letter[]>;
  /** What was handed to the learning-record store. */
  readonly sent: readonly Statement[];
  /** Accounts that the learning-record store was told to forget. */
  readonly forgotten: readonly string[];
  /** What was asked of the database. */
  readonly statements: readonly string[];
  /** The clock the server sees; move it by assigning. */
  clock: Date;
  /** A second server on the same database. */
  another(change?: Partial<Deps>): Promise<Pick<Harness, 'browser' | 'close'>>;
  /** A browser at this address: keeps its cookies from answer to answer. */
  browser(address?: string): Browser;
  close(): Promise<void>;
}

export interface Browser {
  get(path: string, headers?: Record<string, string>): Promise<Response>;
  send(
    method: 'POST' | 'PUT' | 'DELETE',
    path: string,
    body: unknown,
    headers?: Record<string, string>,
  ): Promise<Response>;
}

export const SET_UP = {
  school: 'Saltmarsh Infants',
  className: 'Sandpiper',
  name: 'Harbour keeper',
  email: 'keeper@saltmarsh.example',
  password: 'lanterns-on-the-jetty',
  children: ['Zadie', 'Ivo', 'Odo'],
};

/** Runs statements on the cluster itself, and ends. Names are made here, never by input. */
export async function administer(work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  if (!base) throw new Error('VANE_TEST_DATABASE_URL is not set: run the tests with "npm test"');
  const client = new pg.Client({ connectionString: base });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

export const urlOf = (database: string): string => {
  const url = new URL(base ?? '');
  url.pathname = `/${database}`;
  return url.href;
};

/** A database whose tables are made: migrated once by whichever test comes first, and copied by all others. */
const TEMPLATE = `vane_migrated_${MIGRATION_NAMES.length}`;
const TEMPLATE_LOCK = 8263;

async function ensureTemplate(client: pg.Client): Promise<void> {
  const there = async (): Promise<boolean> =>
    (await client.query('select 1 from pg_database where datname = $1', [TEMPLATE])).rows.length > 0;
  if (await there()) return;
  await client.query('select pg_advisory_lock($1)', [TEMPLATE_LOCK]);
  if (await there()) return;
  // Under another name until it is whole: a copy of half a template would be worse than none.
  await client.query(`create database ${TEMPLATE}_making`);
  await (await openDatabase(urlOf(`${TEMPLATE}_making`))).close();
  await client.query(`alter database ${TEMPLATE}_making rename to ${TEMPLATE}`);
}

/** Databases of this process that nobody is using. A file of tests takes over those of the files before it: to empty one is a hundred times quicker than to make one. */
const idle: string[] = [];

/** Everything but which migrations have run. */
async function empty(database: string): Promise<void> {
  const client = new pg.Client({ connectionString: urlOf(database) });
  await client.connect();
  try {
    const { rows } = await client.query<{ name: string }>(
      `select quote_ident(relname) as name from pg_class
       where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and not relispartition and relname <> 'vane_migration'`,
    );
    // Without the checks of foreign keys, whose order would have to be kept.
    const deletes = rows.map(({ name }) => `delete from ${name}`);
    await client.query(['set session_replication_role = replica', ...deletes].join(';'));
  } finally {
    await client.end();
  }
}

async function takeDatabase(): Promise<string> {
  const free = idle.pop();
  const name = free ?? `t_${process.pid}_${made++}`;
  if (free === undefined)
    await administer(async (client) => {
      await ensureTemplate(client);
      const there = await client.query('select 1 from pg_database where datname = $1', [name]);
      if (there.rows.length === 0) await client.query(`create database ${name} template ${TEMPLATE}`);
    });
  await empty(name);
  return name;
}

export async function startHarness(change: Partial<Deps> = {}): Promise<Harness> {
  const database = await takeDatabase();
  const url = urlOf(database);
  const statements: string[] = [];
  const orm = await openDatabase(url, (sql) => statements.push(sql));
  const log = pino({ level: 'silent' });
  const letters: Letter[] = [];
  const folder = mkdtempSync(join(tmpdir(), 'vane-mail-'));
  const post = new MailFolder(folder);
  const mail: Mail = {
    simulated: true,
    send: (letter) => {
      letters.push(letter);
      return post.send(letter);
    },
    sent: (schoolId) => post.sent(schoolId),
  };
  const sent: Statement[] = [];
  const forgotten: string[] = [];
  const toClose: (() => Promise<void>)[] = [];
  const jobs = new JobsHere(workOf({ orm, judge: judgeHere, now: () => harness.clock, backups: null, ...change }));
  const depsOf = (own: MikroORM): Deps => ({
    orm: own,
    readers: new Readers(own, null, log),
    listenUrl: url,
    judge: judgeHere,
    jobs,
    printer: pdfOf,
    readRoster: (zip) => Promise.resolve(tryRoster(zip)),
    recordStore: {
      simulated: true,
      name: 'test',
      forget: ({ account }) => Promise.resolve(void forgotten.push(account)),
      send: (some) => Promise.resolve(sent.push(...some) && some.length),
    },
    rosterService: harbourRoster,
    log,
    metrics: null,
    now: () => harness.clock,
    version: 'test',
    closing: (end) => toClose.push(end),
    webRoot: null,
    checkAnswers: false,
    docsRoot: join(import.meta.dirname, '../../../docs'),
    mail,
    publicUrl: 'https://vane.example',
    hostNames: ['localhost'],
    secureCookie: false,
    proxied: false,
    ...change,
  });
  const harness: Harness = {
    letters,
    posted: async (count) => {
      for (let tries = 0; tries < 1000 && letters.length < count; tries++)
        await new Promise((later) => setTimeout(later, 10));
      return letters;
    },
    sent,
    forgotten,
    statements,
    clock: new Date('2026-11-25T09:00:00Z'),
    orm,
    app: createApp(depsOf(orm)),
    browser: (address) => browserFor(harness.app, jobs, address),
    another: async (more = {}) => {
      const own = await openDatabase(url);
      const app = createApp({ ...depsOf(own), ...more });
      return { browser: (address) => browserFor(app, jobs, address), close: () => own.close() };
    },
    close: async () => {
      await Promise.all(toClose.map((end) => end()));
      await jobs.settled();
      await orm.close();
      idle.push(database);
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return harness;
}

const PATHS = (Object.keys(ROUTES) as RouteName[]).map((name) => {
  const [method = '', path = ''] = name.split(' ');
  const parts = path.replace(/:\w+\{([^}]*)\}/g, '($1)').replace(/:\w+/g, '[^/]+');
  return { name, method, path: new RegExp(`^/api${parts}$`) };
});

/** Holds every good answer against the contract: a field too many may be somebody's secret. */
async function asDescribed(method: string, path: string, answer: Response): Promise<Response> {
  const json = answer.ok && answer.headers.get('content-type')?.startsWith('application/json');
  if (!json || answer.headers.has('content-disposition')) return answer;
  const route = PATHS.find((one) => one.method === method && one.path.test(path.split('?')[0] ?? ''));
  const wrong = route ? wrongIn(route.name, await answer.clone().json()) : null;
  if (wrong !== null) throw new Error(wrong);
  return answer;
}

function browserFor(app: Hono<Env>, jobs: JobsHere, remoteAddress = '192.0.2.1'): Browser {
  const cookies = new Map<string, string>();
  const remember = (answer: Response): Response => {
    for (const set of answer.headers.getSetCookie()) {
      const [name = '', value = ''] = (set.split(';')[0] ?? '').split(/=(.*)/s);
      if (value === '') cookies.delete(name);
      else cookies.set(name, value);
    }
    return answer;
  };
  const sent = (): { cookie: string } => ({ cookie: [...cookies].map((one) => one.join('=')).join('; ') });
  // What Node.js knows of a connection.
  const connection = { incoming: { socket: { remoteAddress } } };
  const asked = async (path: string, headers: Record<string, string>): Promise<Response> =>
    remember(await app.request(path, { headers: { ...sent(), ...headers } }, connection));
  return {
    // Who finds something to be judged looks again when it is.
    get: async (path, headers = {}) => {
      const first = await asked(path, headers);
      return asDescribed('GET', path, (await jobs.settled()) ? await asked(path, headers) : first);
    },
    send: async (method, path, body, headers = {}) =>
      asDescribed(
        method,
        path,
        remember(
          await app.request(
            path,
            {
              method,
              headers: { 'content-type': 'application/json', ...sent(), ...headers },
              body:
                typeof body === 'string' || body instanceof Uint8Array || body instanceof ReadableStream
                  ? (body as BodyInit)
                  : JSON.stringify(body),
              ...(body instanceof ReadableStream ? { duplex: 'half' as const } : {}),
            },
            connection,
          ),
        ),
      ),
  };
}

/** A route of the contract as an address, its open places filled: those without a name of their own with `other`. */
export const filledPath = (route: string, places: Readonly<Record<string, string>>, other: string): string =>
  `/api${route.replace(/\{[^}]*\}/, '').replace(/:(\w+)/g, (_, one: string) => places[one] ?? other)}`;

/** Sets the server up and says what was made. */
export async function setUp(
  browser: Browser,
): Promise<{ classId: string; path: string; children: Map<string, string> }> {
  const me = (await (await browser.send('POST', '/api/set-up', SET_UP)).json()) as { classes: { id: string }[] };
  const classId = me.classes[0]?.id ?? '';
  const path = `/api/classes/${classId}`;
  const view = (await (await browser.get(path)).json()) as { children: { id: string; nickname: string }[] };
  return { classId, path, children: new Map(view.children.map((c) => [c.nickname, c.id])) };
}
