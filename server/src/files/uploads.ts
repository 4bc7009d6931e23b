import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as WebStream } from 'node:stream/web';
import { RequestProblem } from '../problems/problem';

/** Files that are on their way at once: in all, and of one adult. */
const UPLOADS_AT_ONCE = 8;
const MOST_OF_ONE = 2;
/** An upload without data for this long is abandoned, ms. */
const SILENT_MS = 20_000;
/** Longer than any file takes to be looked at, ms. */
const LEFT_MS = 3_600_000;
const UPLOAD = 'upload';

/**
 * Takes uploads in whole, into a file of their own, before anything else is begun with them: a sender that never ends must hold nothing that others need, least of all a connection to the
 * database.
 */
export class Uploads {
  readonly #underWay = new Map<string, number>();

  /** @param root folder for them; what a server that was killed has left there goes when the next file comes */
  constructor(
    private readonly root: string,
    private readonly silentMs = SILENT_MS,
  ) {}

  /** A folder for one upload; others that nothing has come into for long are nobody's. */
  async #place(): Promise<string> {
    await mkdir(this.root, { recursive: true, mode: 0o700 });
    for (const name of await readdir(this.root)) {
      const left = join(this.root, name);
      const newest = await Promise.all([left, join(left, UPLOAD)].map((one) => stat(one).catch(() => null)));
      if (newest.every((found) => found === null || Date.now() - found.mtimeMs > LEFT_MS))
        await rm(left, { recursive: true, force: true });
    }
    return mkdtemp(join(this.root, 'one-'));
  }

  /** Gives the whole upload to `act` as a file that is gone afterwards. */
  async take<T>(adultId: string, request: Request, largest: number, act: (file: string) => Promise<T>): Promise<T> {
    const all = [...this.#underWay.values()].reduce((sum, n) => sum + n, 0);
    const own = this.#underWay.get(adultId) ?? 0;
    if (own >= MOST_OF_ONE || all >= UPLOADS_AT_ONCE) {
      await request.body?.cancel();
      throw new RequestProblem('try-later', { detail: 'other files are on their way' });
    }
    this.#underWay.set(adultId, own + 1);
    let folder = '';
    try {
      folder = await this.#place();
      const file = join(folder, UPLOAD);
      await this.#receive(request, largest, file);
      return await act(file);
    } finally {
      if (folder !== '') await rm(folder, { recursive: true, force: true });
      const left = (this.#underWay.get(adultId) ?? 1) - 1;
      if (left > 0) this.#underWay.set(adultId, left);
      else this.#underWay.delete(adultId);
    }
  }

  async #receive({ body, headers }: Request, largest: number, file: string): Promise<void> {
    if (Number(headers.get('content-length') ?? 0) > largest) throw new RequestProblem('too-large');
    if (body === null) return writeFile(file, '');
    let size = 0;
    const given = new AbortController();
    const silent = (): ReturnType<typeof setTimeout> => setTimeout(() => given.abort(), this.silentMs);
    let waiting = silent();
    const heard = new Transform({
      transform: (part: Buffer, _, done) => {
        clearTimeout(waiting);
        waiting = silent();
        size += part.length;
        if (size > largest) done(new RequestProblem('too-large'));
        else done(null, part);
      },
    });
    try {
      await pipeline(Readable.fromWeb(body as unknown as WebStream), heard, createWriteStream(file, { mode: 0o600 }), {
        signal: given.signal,
      });
    } catch (error) {
      if (given.signal.aborted) throw new RequestProblem('too-slow');
      throw error;
    } finally {
      clearTimeout(waiting);
    }
  }
}
