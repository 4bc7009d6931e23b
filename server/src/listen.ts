import { serve } from '@hono/node-server';
import type { Hono } from 'hono';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:https';
import type { Environment } from './environment';
import type { Metrics } from './request/metrics';
import type { Env } from './request/context';

/** A certificate of its own, where a classroom's devices come straight to this process. */
export const certificateOf = ({
  VANE_TLS_KEY: key,
  VANE_TLS_CERTIFICATE: certificate,
}: Environment): { key: Buffer; cert: Buffer } | null =>
  key === undefined || certificate === undefined ? null : { key: readFileSync(key), cert: readFileSync(certificate) };

export interface Listening {
  /** Accepts no new requests and lets open ones end; those still open after `longest` milliseconds are broken off. */
  close(longest: number): Promise<void>;
}

/** Answers requests at the environment's port. Resolves when it listens. */
export async function listen(
  app: Hono<Env>,
  env: Environment,
  certificate: ReturnType<typeof certificateOf>,
): Promise<Listening> {
  const server = await new Promise<ReturnType<typeof serve>>((resolve, reject) => {
    const made = serve(
      {
        fetch: app.fetch,
        hostname: env.VANE_HOST,
        port: env.VANE_PORT,
        ...(certificate && { createServer, serverOptions: certificate }),
      },
      () => resolve(made),
    );
    made.on('error', reject);
  });
  // Longer than a teacher's pauses: a connection that is closed while a request is in flight fails that request.
  if ('keepAliveTimeout' in server) {
    server.keepAliveTimeout = 65_000;
    // A request whose head or body never ends is given up.
    server.headersTimeout = 20_000;
    server.requestTimeout = 300_000;
  }
  return {
    close: (longest) =>
      new Promise((closed) => {
        server.close(() => closed());
        if (!('closeIdleConnections' in server)) return;
        setInterval(() => server.closeIdleConnections(), 100).unref();
        setTimeout(() => server.closeAllConnections(), longest).unref();
      }),
  };
}

/** Metrics, for whoever looks after the machine, on that machine alone. */
export const listenForMetrics = (metrics: Metrics, port: number): Promise<Listening> =>
  new Promise((resolve, reject) => {
    const server = serve({ fetch: metrics.answer, hostname: '127.0.0.1', port }, () =>
      resolve({
        close: () => {
          server.close();
          return Promise.resolve();
        },
      }),
    );
    server.on('error', reject);
  });
