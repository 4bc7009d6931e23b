import { Migrator } from '@mikro-orm/migrations';
import { MikroORM, defineConfig } from '@mikro-orm/postgresql';
import { ENTITIES } from './entities';
import { Migration0001FirstLight } from './migrations/Migration0001FirstLight';
import { Migration0002ClassAndOverrule } from './migrations/Migration0002ClassAndOverrule';
import { Migration0003Corrections } from './migrations/Migration0003Corrections';
import { Migration0004People } from './migrations/Migration0004People';
import { Migration0005Adults } from './migrations/Migration0005Adults';
import { Migration0006Screens } from './migrations/Migration0006Screens';
import { Migration0007Papers } from './migrations/Migration0007Papers';
import { Migration0008AsWritten } from './migrations/Migration0008AsWritten';
import { Migration0009Guessing } from './migrations/Migration0009Guessing';
import { Migration0010SchoolDays } from './migrations/Migration0010SchoolDays';
import { Migration0011HowTheySaidIt } from './migrations/Migration0011HowTheySaidIt';
import { Migration0012PlaceAndSupport } from './migrations/Migration0012PlaceAndSupport';
import { Migration0013Helpers } from './migrations/Migration0013Helpers';
import { Migration0014WhoMarked } from './migrations/Migration0014WhoMarked';
import { Migration0015WorkThatFailed } from './migrations/Migration0015WorkThatFailed';
import { Migration0016BySchool } from './migrations/Migration0016BySchool';
import { Migration0017Directory } from './migrations/Migration0017Directory';
import { Migration0018Service } from './migrations/Migration0018Service';
import { Migration0019OneDatabase } from './migrations/Migration0019OneDatabase';
import { Migration0020OneClass } from './migrations/Migration0020OneClass';
import { Migration0021OneRule } from './migrations/Migration0021OneRule';
import { demandWorkable, writeSteps, type Step } from './workable';

/** Migrations in order. They are listed, not looked up in a folder, so that they survive bundling. From the nineteenth on each says the oldest program that can still work with it, by that one's newest migration. */
const MIGRATIONS = [
  { name: 'Migration0001FirstLight', class: Migration0001FirstLight },
  { name: 'Migration0002ClassAndOverrule', class: Migration0002ClassAndOverrule },
  { name: 'Migration0003Corrections', class: Migration0003Corrections },
  { name: 'Migration0004People', class: Migration0004People },
  { name: 'Migration0005Adults', class: Migration0005Adults },
  { name: 'Migration0006Screens', class: Migration0006Screens },
  { name: 'Migration0007Papers', class: Migration0007Papers },
  { name: 'Migration0008AsWritten', class: Migration0008AsWritten },
  { name: 'Migration0009Guessing', class: Migration0009Guessing },
  { name: 'Migration0010SchoolDays', class: Migration0010SchoolDays },
  { name: 'Migration0011HowTheySaidIt', class: Migration0011HowTheySaidIt },
  { name: 'Migration0012PlaceAndSupport', class: Migration0012PlaceAndSupport },
  { name: 'Migration0013Helpers', class: Migration0013Helpers },
  { name: 'Migration0014WhoMarked', class: Migration0014WhoMarked },
  { name: 'Migration0015WorkThatFailed', class: Migration0015WorkThatFailed },
  { name: 'Migration0016BySchool', class: Migration0016BySchool },
  { name: 'Migration0017Directory', class: Migration0017Directory },
  { name: 'Migration0018Service', class: Migration0018Service },
  { name: 'Migration0019OneDatabase', class: Migration0019OneDatabase, oldest: 'Migration0019OneDatabase' },
  // An older program moves a child by updating each table itself, which finds nothing left to do.
  { name: 'Migration0020OneClass', class: Migration0020OneClass, oldest: 'Migration0019OneDatabase' },
  { name: 'Migration0021OneRule', class: Migration0021OneRule, oldest: 'Migration0019OneDatabase' },
] satisfies readonly (Step & { readonly class: unknown })[];

export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

/** Databases that were connected to. */
let connected = 0;

/** Connects. `heard` receives every statement, for tests. */
export const connect = (url: string, heard?: (sql: string) => void): Promise<MikroORM> =>
  MikroORM.init(
    defineConfig({
      clientUrl: url,
      // By this name a transaction finds its own manager: with one name for several databases, a fork made inside it would be the other's.
      contextName: `${url} ${++connected}`,
      entities: ENTITIES,
      extensions: [Migrator],
      migrations: { migrationsList: [...MIGRATIONS], snapshot: false, tableName: 'vane_migration' },
      // Requests fork it; the global one is never used.
      allowGlobalContext: false,
      // The migrator greets every migration on standard output, which is the start command's.
      logger: (message) => heard?.(message),
      debug: heard ? ['query'] : false,
      colors: false,
      pool: { min: 0, max: 10 },
      // A busy machine is slow, not wrong; a database that is down refuses at once.
      driverOptions: { connection: { connectionTimeoutMillis: 15_000 } },
    }),
  );

/** The same, and migrates the tables, as far as a migration that is named. @throws CannotStart where this program cannot work with what is there */
export async function openDatabase(
  url: string,
  { heard, as }: { readonly heard?: (sql: string) => void; readonly as?: string } = {},
): Promise<MikroORM> {
  const orm = await connect(url, heard);
  try {
    await demandWorkable(orm, MIGRATION_NAMES);
    await orm.migrator.up(as === undefined ? undefined : { to: as });
    await writeSteps(orm, MIGRATIONS);
    return orm;
  } catch (error) {
    await orm.close();
    throw error;
  }
}
