import { statement, type Statement } from '@vane/contract';
import { appendFile, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import * as z from 'zod';

/** Where statements go: a learning-record store. */
export interface RecordStore {
  /** Whether this is the one that ships with Vane, and nothing leaves the machine. */
  readonly simulated: boolean;
  readonly name: string;
  /** Hands statements over; those it has already stay as they are. Returns how many were new, or null where the store does not say. */
  send(statements: readonly Statement[]): Promise<number | null>;
  /** Takes back what was handed over of somebody whose record is deleted. */
  forget(whose: Forgotten): Promise<void>;
}

/** School and statements. */
export interface Forgotten {
  /** The account that they name. */
  readonly account: string;
  readonly homePage: string;
  readonly statements: readonly string[];
}

const LINE = z.object({ id: z.string(), actor: z.object({ account: z.object({ name: z.string() }) }) });

/**
 * The learning-record store that ships with Vane. It is simulated: a file of JSON lines beside Vane's own data. It checks each statement as a store would, and keeps one of
 * each id.
 */
export class RecordFile implements RecordStore {
  readonly simulated = true;
  readonly name: string;
  #known: Set<string> | null = null;

  constructor(private readonly file: string) {
    this.name = `simulated, ${file}`;
  }

  async send(statements: readonly Statement[]): Promise<number> {
    for (const one of statements) statement.parse(one);
    const known = (this.#known ??= await this.#ids());
    const fresh = statements.filter(({ id }) => !known.has(id));
    if (fresh.length > 0) {
      await mkdir(dirname(this.file), { recursive: true, mode: 0o700 });
      await appendFile(this.file, fresh.map((one) => `${JSON.stringify(one)}\n`).join(''), { mode: 0o600 });
      for (const { id } of fresh) known.add(id);
    }
    return fresh.length;
  }

  /** A real store hides voided statements; this one deletes their lines. */
  async forget({ account }: Forgotten): Promise<void> {
    const lines = await this.#lines();
    const left = lines.filter((one) => LINE.parse(JSON.parse(one)).actor.account.name !== account);
    if (left.length === lines.length) return;
    // Whole or not at all: a file half written would lose what others have handed over.
    await writeFile(`${this.file}.part`, left.map((one) => `${one}\n`).join(''), { mode: 0o600 });
    await rename(`${this.file}.part`, this.file);
    this.#known = null;
  }

  async #lines(): Promise<string[]> {
    const text = await readFile(this.file, 'utf8').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return '';
      throw error;
    });
    return text.split('\n').filter(Boolean);
  }

  async #ids(): Promise<Set<string>> {
    return new Set((await this.#lines()).map((one) => LINE.parse(JSON.parse(one)).id));
  }
}

/** A real store, over xAPI. */
export class RecordServer implements RecordStore {
  readonly simulated = false;
  readonly name: string;

  constructor(
    private readonly url: string,
    private readonly authorization: string,
  ) {
    this.name = new URL(url).host;
  }

  async send(statements: readonly Statement[]): Promise<null> {
    await this.#post(statements);
    return null;
  }

  /** xAPI 1.0.3, 2.3.2: a statement is never deleted, but voided by another. */
  async forget({ homePage, statements }: Forgotten): Promise<void> {
    const voiding = statements.map((id) => ({
      actor: { objectType: 'Agent', account: { homePage, name: 'vane' } },
      verb: { id: 'http://adlnet.gov/expapi/verbs/voided', display: { en: 'voided' } },
      object: { objectType: 'StatementRef', id },
    }));
    for (let i = 0; i < voiding.length; i += 200) await this.#post(voiding.slice(i, i + 200));
  }

  async #post(statements: readonly object[]): Promise<void> {
    const answer = await fetch(`${this.url.replace(/\/$/, '')}/statements`, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        'x-experience-api-version': '1.0.3',
        ...(this.authorization ? { authorization: this.authorization } : {}),
      },
      body: JSON.stringify(statements),
      signal: AbortSignal.timeout(20_000),
    });
    // 409: the store has these ids already.
    if (!answer.ok && answer.status !== 409) throw new Error(`the learning-record store answered ${answer.status}`);
    await answer.arrayBuffer();
  }
}
