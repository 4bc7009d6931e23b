import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as z from 'zod';
import { CannotStart } from './problems/cannotStart';

const on = z
  .string()
  .default('')
  .transform((text) => text === '1');
/** An address of a service; empty is none. */
const addressOf = (protocol: RegExp) =>
  z
    .union([z.literal(''), z.url({ protocol })])
    .optional()
    .transform((text) => (text === undefined || text === '' ? null : text.replace(/\/$/, '')));
const address = addressOf(/^https?$/);

const postgres = z.url({ protocol: /^postgres(ql)?$/ });

/** Everything the server is told from outside, by the names of README.md and docs/formats.md. */
const environment = z.object({
  DATABASE_URL: postgres,
  /** A standby, for long reads. */
  VANE_STANDBY_URL: postgres.optional(),
  /** Where a connection can be kept for LISTEN, behind a pooler that gives away connections by the transaction. */
  VANE_LISTEN_URL: postgres.optional(),
  VANE_PORT: z.coerce.number().int().min(1).max(65_535).default(8263),
  VANE_HOST: z.string().min(1).default('127.0.0.1'),
  /** Answers requests, takes work such as judging, or both. */
  VANE_ROLE: z.enum(['web', 'worker', 'all']).default('all'),
  VANE_LOG: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent']).default('warn'),
  VANE_DEMO: on,
  VANE_SUPERVISED: on,
  VANE_CHECK_ANSWERS: on,
  VANE_HTTPS: on,
  VANE_TLS_KEY: z.string().min(1).optional(),
  VANE_TLS_CERTIFICATE: z.string().min(1).optional(),
  VANE_VERSION: z.string().default('unknown'),
  WEB_ROOT: z
    .string()
    .optional()
    .transform((folder) => (folder === '' ? undefined : folder)),
  VANE_URL: address,
  VANE_HOSTS: z
    .string()
    .default('')
    .transform((names) =>
      names
        .toLowerCase()
        .split(/[\s,]+/)
        .filter((name) => name !== ''),
    ),
  VANE_SET_UP_CODE: z.string().min(1).optional(),
  VANE_ERASED_FILE: z.string().min(1).optional(),
  VANE_UPLOADS: z.string().min(1).default(join(tmpdir(), 'vane-uploads')),
  VANE_MAIL: z.string().min(1).default('mail'),
  VANE_BACKUPS: z.string().min(1).optional(),
  VANE_SMTP_URL: addressOf(/^smtps?$/),
  VANE_SMTP_FROM: z.string().default('vane@localhost'),
  VANE_METRICS_PORT: z.coerce.number().int().min(1).max(65_535).optional(),
  VANE_RECORD_FILE: z.string().min(1).default('statements.jsonl'),
  VANE_RECORD_STORE_URL: address,
  VANE_RECORD_STORE_AUTHORIZATION: z.string().default(''),
  VANE_ROSTER_URL: address,
  VANE_ROSTER_AUTHORIZATION: z.string().default(''),
});
export type Environment = z.infer<typeof environment>;

/** A variable that cannot be used, by its name; its value may be a secret and is not said. */
export class BadEnvironment extends CannotStart {}

/** Reads the environment. @throws BadEnvironment with every variable that is wrong */
export function readEnvironment(env: Readonly<Record<string, string | undefined>>): Environment {
  if (env['VANE_SHARDS'] !== undefined && env['VANE_SHARDS'] !== '')
    throw new BadEnvironment(
      'VANE_SHARDS is set, and this version keeps all schools of a Vane in one database: docs/running.md, "From several databases to one", has the two ways out.',
    );
  const read = environment.safeParse(env);
  if (read.success) return read.data;
  const wrong = read.error.issues.map(({ path, message }) =>
    env[String(path[0])] === undefined ? `${String(path[0])} is not set` : `${String(path[0])}: ${message}`,
  );
  throw new BadEnvironment(`${wrong.join('\n')}\nStart it with "npm start"; README.md lists what can be set.`);
}
