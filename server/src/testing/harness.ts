import type { MikroORM } from '@mikro-orm/postgresql';
import { ROUTES, wrongIn, type RouteName, type Statement } from '@vane/contract';
import type { Hono } from 'hono';
import { mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { MailFolder, type Letter, type Mail } from '../outside/mail';
import { createApp } from '../app';
import type { Deps, Env } from '../request/context';
import { openDatabase } from '../db/orm';
import { giveBack, takeDatabase, urlOf } from './databases';
import { openedDatabase, type Database } from '../db/database';
import { readArchive } from '../files/archive';
import { tryRoster } from '../files/readRoster';
import { pdfOf } from '../threads/pdf';
import { harbourRoster } from '../demo/harbourRoster';
import { setUpCodeAtStart } from '../school/setUpCode';
import { judgeHere } from '../threads/judgeThreads';
import { workOf } from '../work';
import { JobsHere } from './jobsHere';

/** A server on a database of its own. */
export interface Harness {
  readonly app: Hono<Env>;
  readonly database: Database;
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
  /** A second server on the same databases. */
  another(change?: Partial<Deps>): Promise<Pick<Harness, 'browser' | 'close' | 'database'>>;
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

/** The code that the window would show. */
const CODE = 'HARBOUR234';

export const SET_UP = {
  code: CODE,
  school: 'Saltmarsh Infants',
  className: 'Sandpiper',
  name: 'Harbour keeper',
  email: 'keeper@saltmarsh.example',
  password: 'lanterns-on-the-jetty',
  children: ['Zadie', 'Ivo', 'Odo'],
};

export async function startHarness(change: Partial<Deps> = {}): Promise<Harness> {
  const name = await takeDatabase();
  const statements: string[] = [];
  const log = pino({ level: 'silent' });
  const open = async (): Promise<Database> => {
    const url = urlOf(name);
    return openedDatabase(await openDatabase(url, { heard: (sql) => statements.push(sql) }), { url }, log);
  };
  const database = await open();
  await setUpCodeAtStart(database.orm.em.fork(), new Date(), { given: CODE, alone: true });
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
  const jobs = new JobsHere(
    workOf({
      database,
      judge: judgeHere,
      now: () => harness.clock,
      backups: null,
      post: { mail, publicUrl: 'https://vane.example' },
      ...change,
    }),
  );
  const depsOf = (own: Database): Deps => ({
    database: own,
    judge: judgeHere,
    jobs,
    printer: pdfOf,
    readRoster: async (file) => tryRoster(await readFile(file)),
    readArchive: async (file) => readArchive(await readFile(file)),
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
    uploads: join(folder, 'uploads'),
    checkAnswers: false,
    docsRoot: join(import.meta.dirname, '../../../docs'),
    mail,
    publicUrl: 'https://vane.example',
    hostNames: ['localhost'],
    schoolHosts: ['saltmarsh.vane.example'],
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
    database,
    orm: database.orm,
    app: createApp(depsOf(database)),
    browser: (address) => browserFor(harness.app, jobs, address),
    another: async (more = {}) => {
      const own = await open();
      const app = createApp({ ...depsOf(own), ...more });
      return {
        database: own,
        browser: (address) => browserFor(app, jobs, address),
        close: () => own.close(),
      };
    },
    close: async () => {
      await Promise.all(toClose.map((end) => end()));
      await jobs.settled();
      await database.close();
      giveBack(name);
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
    send: async (method, path, body, headers = {}) => {
      const plain = typeof body === 'string' || body instanceof Uint8Array || body instanceof ReadableStream;
      const wish = {
        method,
        headers: { 'content-type': 'application/json', ...sent(), ...headers },
        body: plain ? (body as BodyInit) : JSON.stringify(body),
        ...(body instanceof ReadableStream ? { duplex: 'half' as const } : {}),
      };
      const answer = remember(await app.request(path, wish, connection));
      return asDescribed(method, path, answer);
    },
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

/** The secret of the link in the newest letter. */
export const linkIn = ({ letters }: Harness): string =>
  /https:\/\/vane\.example\/\w+\/([\w-]+)/.exec(letters.at(-1)?.text ?? '')?.[1] ?? '';

/** Another adult, invited and joined: a teacher without a class, unless wished otherwise. */
export async function invited(harness: Harness, lead: Browser, wish: object = {}): Promise<Browser> {
  const before = harness.letters.length;
  const invite = { name: 'Mate', email: 'mate@saltmarsh.example', role: 'teacher', classes: [], ...wish };
  const answer = await lead.send('POST', '/api/school/invites', invite);
  if (answer.status !== 201) throw new Error(`not invited: ${answer.status} ${await answer.text()}`);
  await harness.posted(before + 1);
  const mate = harness.browser();
  const sent = { token: linkIn(harness), name: 'Mate', password: 'gulls-over-the-quay' };
  const joined = await mate.send('POST', '/api/join', sent);
  if (joined.status !== 201) throw new Error(`not joined: ${joined.status} ${await joined.text()}`);
  return mate;
}
