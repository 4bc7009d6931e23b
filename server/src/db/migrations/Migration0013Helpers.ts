import { Migration } from '@mikro-orm/migrations';

/** Holidays of a school; sheets of planned sessions; and links by which a helper opens a sheet for a day. */
export class Migration0013Helpers extends Migration {
  override up(): void {
    this.addSql(`
      alter table school add column days_off jsonb not null default '[]';
      alter table group_sheet add column session jsonb;
      create table helper_link (
        school_id uuid not null, code text not null, class_id uuid not null, token_hash text not null, adult_id uuid not null, made_at timestamptz not null,
        until timestamptz not null, primary key (school_id, code),
        foreign key (school_id, code) references group_sheet on delete cascade,
        foreign key (school_id, adult_id) references adult on delete cascade);
      create unique index helper_link_token on helper_link (token_hash);
    `);
  }

  override down(): void {
    this.addSql(`
      drop table helper_link;
      alter table group_sheet drop column session;
      alter table school drop column days_off;
    `);
  }
}
