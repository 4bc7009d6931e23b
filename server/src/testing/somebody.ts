/** An answer that takes longer hangs, ms. */
const LONGEST_MS = 20_000;

export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body?: string | undefined;
  readonly type?: string;
}

/** Somebody with a browser, at a server that is reached over HTTP: keeps its cookies. */
export class Somebody {
  readonly #cookies = new Map<string, string>();

  constructor(
    private readonly base: string,
    readonly signInAs: { readonly email: string; readonly password: string } | null,
  ) {}

  at(path: string): string {
    return this.base + path;
  }
  get cookie(): string {
    return [...this.#cookies].map((one) => one.join('=')).join('; ');
  }

  async send({ method, path, body, type = 'application/json' }: Sent, signal?: AbortSignal): Promise<Response> {
    const answer = await fetch(this.at(path), {
      method,
      headers: {
        cookie: this.cookie,
        ...(body === undefined ? {} : { 'content-type': type }),
      },
      ...(body === undefined ? {} : { body }),
      signal: signal ?? AbortSignal.timeout(LONGEST_MS),
    });
    for (const set of answer.headers.getSetCookie()) {
      const [name = '', value = ''] = (set.split(';')[0] ?? '').split(/=(.*)/s);
      if (value === '') this.#cookies.delete(name);
      else this.#cookies.set(name, value);
    }
    return answer;
  }

  async json<T>(method: string, path: string, body?: object): Promise<T> {
    const answer = await this.send({ method, path, body: body && JSON.stringify(body) });
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
    return (await answer.json()) as T;
  }
}
