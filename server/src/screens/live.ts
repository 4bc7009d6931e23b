import { CHANNEL, EVERY, type ScreenChange } from '../db/notices';
import pg from 'pg';
import type { Logger } from 'pino';
import { logged } from '../problems/logged';

const AGAIN_MS = 500;
/**
 * Tells those who wait on this process what changed on any: through PostgreSQL's LISTEN and NOTIFY, so that any number of processes may serve. A lost connection reconnects, and all listeners read again.
 */
export class Live {
  readonly #waiting = new Map<string, Set<(change: ScreenChange) => void>>();
  #client: pg.Client | null = null;
  #listening: Promise<void> | null = null;
  #again: ReturnType<typeof setTimeout> | null = null;
  #closed = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  /** Calls back on every change of a screen, until the returned call. Changes are heard from the moment it resolves. */
  async on(screen: string, heard: (change: ScreenChange) => void): Promise<() => void> {
    const all = this.#waiting.get(screen) ?? new Set();
    this.#waiting.set(screen, all.add(heard));
    const end = (): void => {
      all.delete(heard);
      if (all.size === 0) this.#waiting.delete(screen);
    };
    try {
      await this.#listen();
      return end;
    } catch (error) {
      end();
      throw error;
    }
  }

  /** Everybody who waits here is told that nothing more comes. */
  async close(): Promise<void> {
    this.#closed = true;
    if (this.#again !== null) clearTimeout(this.#again);
    for (const all of this.#waiting.values()) for (const heard of all) heard('stopping');
    await this.#client?.end();
  }

  #listen(): Promise<void> {
    return (this.#listening ??= this.#connect());
  }

  async #connect(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    this.#client = client;
    const gone = (): void => {
      if (this.#client !== client || this.#closed) return;
      this.#client = null;
      this.#listening = null;
      this.#again = setTimeout(() => {
        this.#listen()
          .then(() => this.#everybody())
          .catch((error: unknown) => this.log.error({ error: logged(error) }, 'live changes are not heard'));
      }, AGAIN_MS);
    };
    client.on('error', gone);
    client.on('end', gone);
    client.on('notification', ({ payload = '' }) => {
      for (const one of payload.split(',')) {
        const [screen = '', change = ''] = one.split(' ');
        const concerned =
          screen === EVERY ? [...this.#waiting.values()].flatMap((all) => [...all]) : (this.#waiting.get(screen) ?? []);
        for (const heard of concerned) heard(change as ScreenChange);
      }
    });
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
    } catch (error) {
      gone();
      throw error;
    }
  }

  /** What was missed while the connection was away is read again. */
  #everybody(): void {
    for (const all of this.#waiting.values())
      for (const heard of all) for (const side of ['control', 'stage'] as const) heard(side);
  }
}
