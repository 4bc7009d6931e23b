import { Migration } from '@mikro-orm/migrations';

/** Counts of tries (the columns are rate-limiter-flexible's), and the devices that an adult signed in on before. */
export class Migration0009Guessing extends Migration {
  override up(): void {
    this.addSql(`
      drop table sign_in_attempt;
      create table rate_limit (key varchar(255) primary key, points int not null default 0, expire bigint);
      create table known_device (
        token_hash text primary key, school_id uuid not null, adult_id uuid not null, seen_at timestamptz not null,
        foreign key (school_id, adult_id) references adult on delete cascade);
      create index known_device_adult on known_device (school_id, adult_id);
    `);
  }

  override down(): void {
    this.addSql(`
      drop table rate_limit, known_device;
      create table sign_in_attempt (email_hash text primary key, failures int not null, last_at timestamptz not null);
    `);
  }
}
