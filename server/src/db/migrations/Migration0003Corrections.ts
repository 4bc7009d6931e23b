import { Migration } from '@mikro-orm/migrations';

/** What was put right in the record: the response before and after, by whom and when. */
export class Migration0003Corrections extends Migration {
  override up(): void {
    this.addSql(`
      create table correction (
        school_id uuid not null, id uuid not null, class_id uuid not null, response_id text not null, what text not null, before jsonb not null, after jsonb not null,
        adult_id uuid not null, adult_name text not null, made_at timestamptz not null,
        primary key (school_id, id), foreign key (school_id, response_id) references response on delete cascade);
      create index correction_response on correction (school_id, response_id, made_at);
      create index response_log on response (school_id, class_id, shown_at desc, id desc);
    `);
  }

  override down(): void {
    this.addSql('drop index response_log; drop table correction;');
  }
}
