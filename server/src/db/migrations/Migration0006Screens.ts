import { Migration } from '@mikro-orm/migrations';

/** A second screen of a sitting. Rows live as long as the sitting: they are taken away after a day. */
export class Migration0006Screens extends Migration {
  override up(): void {
    this.addSql(`
      create table screen (
        school_id uuid not null, id uuid not null, class_id uuid not null, code_hash text, token_hash text, made_at timestamptz not null,
        code_until timestamptz not null, control jsonb, control_seq bigint not null default 0, stage jsonb, stage_seq bigint not null default 0,
        primary key (school_id, id), foreign key (school_id, class_id) references class on delete cascade);
      create unique index screen_code on screen (code_hash);
      create unique index screen_token on screen (token_hash);
    `);
  }

  override down(): void {
    this.addSql('drop table screen;');
  }
}
