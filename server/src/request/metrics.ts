import type { Database } from '../db/database';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';

/** How long answers take, seconds; the last is what no teacher waits for. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10];

/** What the server counts of itself, in the text format of Prometheus. Routes stand there by their patterns: nobody's id, name or address does. */
export class Metrics {
  readonly #registry = new Registry();
  readonly #answers = new Histogram({
    name: 'vane_answer_seconds',
    help: 'Time from a request to its answer, by method, route and status',
    labelNames: ['method', 'route', 'status'] as const,
    buckets: BUCKETS,
    registers: [this.#registry],
  });

  constructor(database: Pick<Database, 'orm' | 'readers'> | null) {
    collectDefaultMetrics({ register: this.#registry });
    const registers = [this.#registry];
    if (database === null) return;
    const { orm, readers } = database;
    new Gauge({
      name: 'vane_database_up',
      help: 'Whether the database answers: 1, or 0',
      registers,
      collect: async function () {
        this.set((await orm.isConnected()) ? 1 : 0);
      },
    });
    new Gauge({
      name: 'vane_standby_lag_seconds',
      help: 'How far the standby is behind; NaN where there is none or it does not answer',
      registers,
      collect: async function () {
        this.set((await readers.lag()) ?? NaN);
      },
    });
  }

  answered(method: string, route: string, status: number, seconds: number): void {
    this.#answers.observe({ method, route, status: String(status) }, seconds);
  }

  readonly answer = async (request: Request): Promise<Response> =>
    new URL(request.url).pathname === '/metrics'
      ? new Response(await this.#registry.metrics(), { headers: { 'content-type': this.#registry.contentType } })
      : new Response('', { status: 404 });
}
