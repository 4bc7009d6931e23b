import { MikroORM } from '@mikro-orm/postgresql';
import type { Statement } from '@vane/contract';
import type { Hono } from 'hono';
import { pino } from 'pino';
import type { Letter, Mail } from '../adults/mail';
import { createApp } from '../app';
import type { Deps, Env } from '../context';
import { openDatabase } from '../db/orm';
import { pdfOf } from '../prints/pdf';
import { harbourRoster } from '../standins/rosterService';
import { judgeHere } from '../judging/judge';

/** A server on a database of its own in the tests' cluster, which scripts/test.mjs starts. */
const base = process.env['VANE_TEST_DATABASE_URL'];
let made = 0;

export interface Harness {
  readonly app: Hono<Env>;
  readonly orm: MikroORM;
  /** What was posted. */
  readonly letters: readonly Letter[];
  /** What was handed to the learning-record store. */
  readonly sent: readonly Statement[];
  /** What was asked of the database. */
  readonly statements: readonly string[];
  /** The clock the server sees; move it by assigning. */
  clock: Date;
  /** A second server on the same database. */
  another(): Promise<Pick<Harness, 'browser' | 'close'>>;
  /** A browser: keeps its cookie from answer to answer. */
  browser(): Browser;
  close(): Promise<void>;
}

export interface Browser {
  get(path: string): Promise<Response>;
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

async function freshDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  if (!base)
    throw new Error('VANE_TEST_DATABASE_URL is not set: run the tests with "npm test" (or ./vane test server)');
  const name = `t_${process.pid}_${made++}`;
  const admin = await MikroORM.init({ clientUrl: base, entities: [], discovery: { warnWhenNoEntities: false } });
  await admin.em.getConnection().execute(`create database ${name}`);
  const url = new URL(base);
  url.pathname = `/${name}`;
  return {
    url: url.href,
    drop: async () => {
      await admin.em.getConnection().execute(`drop database ${name} with (force)`);
      await admin.close();
    },
  };
}

export async function startHarness(change: Partial<Deps> = {}): Promise<Harness> {
  const { url, drop } = await freshDatabase();
  const statements: string[] = [];
  const orm = await openDatabase(url, (sql) => statements.push(sql));
  const log = pino({ level: 'silent' });
  const letters: Letter[] = [];
  const mail: Mail = {
    send: (letter) => Promise.resolve(void letters.push(letter)),
    sent: () => Promise.resolve(letters.map((l) => ({ ...l, at: l.at.toISOString() }))),
  };
  const sent: Statement[] = [];
  const toClose: (() => Promise<void>)[] = [];
  const depsOf = (own: MikroORM): Deps => ({
    orm: own,
    judge: judgeHere,
    printer: pdfOf,
    recordStore: { simulated: true, name: 'test', send: (some) => Promise.resolve(sent.push(...some) && some.length) },
    rosterService: harbourRoster,
    log,
    now: () => harness.clock,
    version: 'test',
    closing: (end) => toClose.push(end),
    webRoot: null,
    mail,
    publicUrl: 'https://vane.example',
    secureCookie: false,
    ...change,
  });
  const harness: Harness = {
    letters,
    sent,
    statements,
    clock: new Date('2026-11-25T09:00:00Z'),
    orm,
    app: createApp(depsOf(orm)),
    browser: () => browserFor(harness.app),
    another: async () => {
      const own = await openDatabase(url);
      const app = createApp(depsOf(own));
      return { browser: () => browserFor(app), close: () => own.close() };
    },
    close: async () => {
      await Promise.all(toClose.map((end) => end()));
      await orm.close();
      await drop();
    },
  };
  return harness;
}

function browserFor(app: Hono<Env>): Browser {
  let cookie = '';
  const remember = (answer: Response): Response => {
    const set = answer.headers.get('set-cookie');
    if (set !== null) cookie = set.split(';')[0] ?? '';
    return answer;
  };
  return {
    get: async (path) => remember(await app.request(path, { headers: { cookie } })),
    send: async (method, path, body, headers = {}) =>
      remember(
        await app.request(path, {
          method,
          headers: { 'content-type': 'application/json', cookie, ...headers },
          body:
            typeof body === 'string' || body instanceof Uint8Array || body instanceof ReadableStream
              ? (body as BodyInit)
              : JSON.stringify(body),
          ...(body instanceof ReadableStream ? { duplex: 'half' as const } : {}),
        }),
      ),
  };
}

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

/** A row as a device sends it. */
export const rowFor = (child: string, change: object = {}) => ({
  response_id: 'r1',
  child,
  sitting: 's1',
  shown_at: '2026-11-25T08:30:00.000Z',
  kind: 'show',
  fact: 'show:7:frame-fives',
  answer_mode: 'tap',
  exposure_ms: 750,
  response_ms: 1500,
  given: '7',
  outcome: 'correct',
  observed: '',
  aid: 'none',
  void: '',
  flags: [],
  quality: null,
  ...change,
});
export const SITTING = {
  id: 's1',
  routine: 'flash-and-say',
  started_at: '2026-11-25T08:29:00.000Z',
  answer_mode: 'tap',
  settings: null,
};
