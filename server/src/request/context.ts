import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import type { z } from 'zod';
import { zValidator } from '@hono/zod-validator';
import type { Logger } from 'pino';
import { storable, type Role } from '@vane/contract';
import type { Mail } from '../outside/mail';
import type { Judge } from '../threads/judgeThread';
import type { RosterRead } from '../outside/rosterService';
import type { RosterService } from '../outside/rosterService';
import type { Print } from '../threads/pdf';
import { RequestProblem } from '../problems/problem';
import type { Metrics } from './metrics';
import type { RecordStore } from '../outside/recordStore';

/** What the server is made with. */
export interface Deps {
  readonly orm: MikroORM;
  readonly judge: Judge;
  readonly mail: Mail;
  /** Makes a PDF, in a thread of its own when serving. */
  readonly printer: (print: Print) => Promise<Uint8Array>;
  /** Reads a roster, in a thread of its own when serving: that of a whole county takes a second. */
  readonly readRoster: (zip: Uint8Array) => Promise<RosterRead>;
  /** A learning-record store, and a service of rosters: simulated ones, unless the environment names real ones. */
  readonly recordStore: RecordStore;
  readonly rosterService: RosterService;
  readonly log: Logger;
  /** What the server counts of itself; null = nothing. */
  readonly metrics: Metrics | null;
  readonly now: () => Date;
  /** What has to be closed when the server stops. */
  readonly closing: (close: () => Promise<void>) => void;
  readonly version: string;
  /** Folder of the built browser application; null = API only. */
  readonly webRoot: string | null;
  /** Folder of the documentation. */
  readonly docsRoot: string;
  /** Vane's address as adults know it, for links in letters: never taken from a request, which anybody can make up. */
  readonly publicUrl: string;
  /** Served over HTTPS, by a reverse proxy in front: cookies are Secure, and the proxy says where requests come from. */
  readonly secureCookie: boolean;
  /** A reverse proxy stands in front and says where a request came from. */
  readonly proxied: boolean;
  /** Names by which Vane is reached, besides that of `publicUrl` and addresses in numbers. */
  readonly hostNames: readonly string[];
}

/** What every handler finds in its context. `adult` is set behind the sign-in, `classId` behind the class's own routes. */
export interface Env {
  Variables: {
    em: EntityManager;
    /** Also in the answer's `X-Request-Id`, so that who reports a failure can name it. */
    requestId: string;
    /** Where the request comes from, as tries are counted. */
    address: string;
    adult: { schoolId: string; id: string; name: string; email: string; role: Role };
    /** Which sign-in this is: the hash of its token. */
    signIn: string;
    /** The screen that a paired device belongs to. */
    screen: { schoolId: string; id: string; tokenHash: string };
    schoolId: string;
    classId: string;
  };
}

/** A body checked by one of the contract's schemas; a bad one is answered with the places that are wrong. */
export const jsonBody = <T extends z.ZodType>(schema: T) =>
  zValidator('json', schema, (result) => {
    if (result.success) {
      if (storable(result.data)) return;
      throw new RequestProblem('bad-body', { places: [{ place: 'body', reason: 'holds a character that is none' }] });
    }
    const places = result.error.issues
      .slice(0, 20)
      .map((issue) => ({ place: issue.path.join('.') || 'body', reason: issue.message }));
    throw new RequestProblem('bad-body', { places });
  });
