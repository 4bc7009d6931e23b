import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { createInterface } from 'node:readline';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

/** Vane's server as the tests use it: a process on a database of its own, to be killed and started again at will. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
export const DEMO = { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' };
/** The code that setting up asks for. */
export const SET_UP_CODE = 'HARBOUR234';
export const TEMPLATE = 'vane_e2e_demo';

const clusterUrl = (): string => {
  const url = process.env['VANE_TEST_DATABASE_URL'];
  if (!url) throw new Error('VANE_TEST_DATABASE_URL is not set: run the tests with "npm test"');
  return url;
};

export function databaseUrl(database: string): string {
  const url = new URL(clusterUrl());
  url.pathname = `/${database}`;
  return url.href;
}

/** One statement in a database of the tests' own. */
export async function inDatabase(database: string, statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl(database) });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}

/** Names are made by the tests themselves, never by input. */
export async function administer(...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: clusterUrl() });
  await client.connect();
  try {
    for (const statement of statements) await client.query(statement);
  } finally {
    await client.end();
  }
}

export async function exists(database: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: clusterUrl() });
  await client.connect();
  try {
    return (await client.query('select 1 from pg_database where datname = $1', [database])).rows.length > 0;
  } finally {
    await client.end();
  }
}

/** Every row of every table of a database, as text. */
export async function everyRow(database: string): Promise<string> {
  const client = new pg.Client({ connectionString: databaseUrl(database) });
  await client.connect();
  try {
    const tables = await client.query<{ name: string }>(
      `select table_name as name from information_schema.tables where table_schema = 'public'`,
    );
    const found: string[] = [];
    for (const { name } of tables.rows) {
      const rows = await client.query<{ row: string }>(`select to_jsonb(t)::text as row from "${name}" t`);
      found.push(...rows.rows.map(({ row }) => `${name} ${row}`));
    }
    return found.join('\n');
  } finally {
    await client.end();
  }
}

export function freePort(): Promise<number> {
  return new Promise((found, failed) => {
    const probe = createServer();
    probe.once('error', failed);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => found(typeof address === 'object' && address !== null ? address.port : 0));
    });
  });
}

export class VaneServer {
  /** What servers of this process have said since they were last asked: errors and warnings, as nobody watches them. */
  static readonly said: string[] = [];
  #process: ChildProcess | null = null;
  readonly #home = mkdtempSync(join(tmpdir(), 'vane-e2e-'));
  readonly #mail = join(this.#home, 'mail');

  private constructor(
    readonly database: string,
    readonly port: number,
    private readonly demo: boolean,
    private readonly role: 'web' | 'worker' | 'all',
  ) {}

  static async on(
    database: string,
    { demo = false, role = 'all' }: { demo?: boolean; role?: 'web' | 'worker' | 'all' } = {},
  ): Promise<VaneServer> {
    const server = new VaneServer(database, await freePort(), demo, role);
    await server.start();
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    const started = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl(this.database),
        VANE_PORT: String(this.port),
        VANE_SET_UP_CODE: SET_UP_CODE,
        VANE_DEMO: this.demo ? '1' : '',
        VANE_ROLE: this.role,
        VANE_CHECK_ANSWERS: '1',
        WEB_ROOT: join(ROOT, 'web/dist'),
        // It ends with the tests that started it, however they end.
        VANE_SUPERVISED: '1',
        VANE_MAIL: this.#mail,
        VANE_RECORD_FILE: join(this.#home, 'records.jsonl'),
      },
    });
    this.#process = started;
    const ready = new Promise<void>((isReady) => {
      for (const stream of [started.stdout, started.stderr])
        createInterface(stream).on('line', (line) => {
          if (/^ready( demo)?$/.test(line)) isReady();
          else if (!line.includes(`/set-up#${SET_UP_CODE}`)) VaneServer.said.push(line);
        });
    });
    await Promise.race([
      ready,
      once(started, 'exit').then(([code]) => {
        throw new Error(
          `the server ended with code ${String(code)} before it was ready:\n${VaneServer.said.join('\n')}`,
        );
      }),
    ]);
  }

  /** Letters in the simulated mail folder: of a school, by its id, or secret ones. */
  letters(which: string): string[] {
    const folder = join(this.#mail, which);
    return existsSync(folder) ? readdirSync(folder).map((name) => readFileSync(join(folder, name), 'utf8')) : [];
  }

  /** Dead at once, as by a power cut. */
  kill(): Promise<void> {
    return this.#end('SIGKILL');
  }
  stop(): Promise<void> {
    return this.#end('SIGTERM');
  }

  async #end(signal: NodeJS.Signals): Promise<void> {
    const running = this.#process;
    this.#process = null;
    if (running?.exitCode !== null) return;
    const gone = once(running, 'exit');
    running.kill(signal);
    await gone;
  }
}
