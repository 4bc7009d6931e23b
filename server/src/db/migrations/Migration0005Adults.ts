import { Migration } from '@mikro-orm/migrations';

/** Links to join or to a new password, wrong sign-ins, locked devices, and how long a school keeps records. */
export class Migration0005Adults extends Migration {
  override up(): void {
    this.addSql(`
      alter table school add column keep_months int not null default 24;
      alter table adult add column pin_hash text;
      alter table adult add column care_read_at timestamptz;
      alter table sign_in add column locked boolean not null default false;
      alter table sign_in add column wrong_pins int not null default 0;

      create table adult_link (
        school_id uuid not null references school on delete cascade, id uuid not null, token_hash text not null, purpose text not null, adult_id uuid,
        name text not null, email text not null, role text not null, classes jsonb not null, expires_at timestamptz not null,
        primary key (school_id, id), foreign key (school_id, adult_id) references adult on delete cascade);
      create unique index adult_link_token on adult_link (token_hash);

      create table sign_in_attempt (email_hash text primary key, failures int not null, last_at timestamptz not null);
    `);
  }

  override down(): void {
    this.addSql(`
      drop table sign_in_attempt, adult_link;
      alter table sign_in drop column wrong_pins;
      alter table sign_in drop column locked;
      alter table adult drop column care_read_at;
      alter table adult drop column pin_hash;
      alter table school drop column keep_months;
    `);
  }
}
