import type { EntityManager } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import type { Role } from '@vane/contract';
import type { Mail } from '../outside/mail';
import type { Judge } from '../threads/judgeThreads';
import type { RosterRead } from '../outside/rosterService';
import type { RosterService } from '../outside/rosterService';
import type { Print } from '../threads/pdf';
import type { ArchiveRead } from '../threads/archiveRead';
import type { ClassKey } from '../db/keys';
import type { Jobs } from '../jobs/jobs';
import type { Database } from '../db/database';
import type { Metrics } from './metrics';
import type { RecordStore } from '../outside/recordStore';

/** What the server is made with. */
export interface Deps {
  readonly database: Database;
  readonly judge: Judge;
  readonly jobs: Jobs;
  readonly mail: Mail;
  /** Makes a PDF, in a thread of its own when serving. */
  readonly printer: (print: Print) => Promise<Uint8Array>;
  /** Read rosters and archives, in a thread of its own when serving, with an end to its time and memory: they are foreign, and may be large. */
  readonly readRoster: (file: string) => Promise<RosterRead>;
  readonly readArchive: (file: string) => Promise<ArchiveRead>;
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
  /** Pages hold every answer against the contract: for tests. */
  readonly checkAnswers: boolean;
  /** Folder for files on their way in. */
  readonly uploads: string;
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
  /** Further names, such as one for each school: links are made with the one by which whoever makes them came. */
  readonly schoolHosts: readonly string[];
}

/** What every handler finds in its context: `adult` is set behind the sign-in, `classKey` behind the class's own routes. */
export interface Env {
  Variables: {
    em: EntityManager;
    /** Also in the answer's `X-Request-Id`, so that who reports a failure can name it. */
    requestId: string;
    /** Vane's address for links: by the name that the request came by, where that is one of the schools', else the public one. */
    homeUrl: string;
    /** Where the request comes from, as tries are counted. */
    address: string;
    adult: { schoolId: string; id: string; name: string; email: string; role: Role };
    /** Which sign-in this is: the hash of its token. */
    signIn: string;
    /** The screen that a paired device belongs to. */
    screen: { schoolId: string; id: string; tokenHash: string };
    /** The sheet that a helper's link opens. */
    helper: { schoolId: string; code: string; classId: string };
    schoolId: string;
    classKey: ClassKey;
  };
}
