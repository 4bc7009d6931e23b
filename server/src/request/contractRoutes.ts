import { ROUTES, storable, type Answer, type RouteName, type Taken } from '@vane/contract';
import { Hono, type Context, type MiddlewareHandler } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { validator } from 'hono/validator';
import type { z } from 'zod';
import { RequestProblem } from '../problems/problem';
import type { Env } from './context';
import { uuidOr404 } from './ids';

/** Bytes of a body, where the contract says nothing else of it. */
const LARGEST_BODY = 256 * 1024;
const tooLarge = (): never => {
  throw new RequestProblem('too-large');
};

/** What a route's schema makes of what was sent; a bad one is answered with the places that are wrong. */
function read<T extends z.ZodType>(schema: T, sent: unknown, whole: string): z.output<T> {
  const result = schema.safeParse(sent);
  if (!result.success) {
    const places = result.error.issues
      .slice(0, 20)
      .map((issue) => ({ place: issue.path.join('.') || whole, reason: issue.message }));
    throw new RequestProblem('bad-body', { places });
  }
  if (storable(result.data)) return result.data;
  throw new RequestProblem('bad-body', { places: [{ place: whole, reason: 'holds a character that is none' }] });
}

/** What a path leaves open: ids as they stand in the database, or "not found". */
const placesOf = (c: Context<Env>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(c.req.param() as Record<string, string>).map(([name, text]) => [
      name,
      /(^id|Id)$/.test(name) ? uuidOr404(text) : text,
    ]),
  );

/** Routes of the contract, each with what answers it: a value as the contract says, nothing, or a whole response where that is a file or a stream. */
export class ContractRoutes {
  readonly hono = new Hono<Env>();

  on<K extends RouteName>(
    name: K,
    act: (
      c: Context<Env>,
      asked: Taken<K>,
    ) => [Answer<K>] extends [never] ? Response | Promise<Response> : Answer<K> | Promise<Answer<K>>,
  ): this {
    const [method = '', path = ''] = name.split(' ');
    const { body, file, largest, query, status } = ROUTES[name] as Partial<{
      body: z.ZodType;
      file: object;
      largest: number;
      query: z.ZodType;
      status: 201;
    }>;
    const before: MiddlewareHandler<Env>[] = [
      // A file is measured as it is read.
      ...(file ? [] : [bodyLimit({ maxSize: largest ?? LARGEST_BODY, onError: tooLarge })]),
      ...(query ? [validator('query', (sent) => read(query, sent, 'query'))] : []),
      ...(body ? [validator('json', (sent) => read(body, sent, 'body'))] : []),
    ];
    this.hono.on(method, [path], ...before, async (c) => {
      const valid = (what: 'query' | 'json'): unknown => c.req.valid(what as never);
      const asked = { ...placesOf(c), query: valid('query'), body: valid('json') } as unknown as Taken<K>;
      const answer: unknown = await act(c, asked);
      if (answer instanceof Response) return answer;
      return answer === undefined
        ? c.body(null, 204)
        : status
          ? c.json(answer as object, status)
          : c.json(answer as object);
    });
    return this;
  }
}
