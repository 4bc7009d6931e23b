import { Migration } from '@mikro-orm/migrations';

/** Roles, children and classes put away, notes, readings at the end of past weeks, and who did what. */
export class Migration0004People extends Migration {
  override up(): void {
    this.addSql(`
      alter table adult add column role text not null default 'lead';
      alter table class add column archived_at timestamptz;
      alter table child add column archived_at timestamptz;
      alter table judgement add column working_number int;
      delete from judgement;
      create index response_sitting on response (school_id, sitting_id);

      create table note (
        school_id uuid not null, id uuid not null, class_id uuid not null, child_id uuid, sitting_id text, text text not null,
        adult_id uuid not null, adult_name text not null, made_at timestamptz not null, primary key (school_id, id),
        foreign key (school_id, child_id) references child on delete cascade, foreign key (school_id, sitting_id) references sitting on delete cascade,
        foreign key (school_id, class_id) references class on delete cascade);
      create index note_child on note (school_id, child_id, made_at);
      create index note_sitting on note (school_id, sitting_id, made_at);

      create table week_reading (
        school_id uuid not null, child_id uuid not null, week date not null, class_id uuid not null, fingerprint text not null, words jsonb not null,
        working_number int, primary key (school_id, child_id, week), foreign key (school_id, child_id) references child on delete cascade);
      create index week_reading_class on week_reading (school_id, class_id, week);

      create table audit (
        school_id uuid not null references school on delete cascade, id uuid not null, at timestamptz not null, adult_id uuid, adult_name text not null,
        what text not null, detail text not null, child_id uuid, primary key (school_id, id));
      create index audit_time on audit (school_id, at desc, id desc);
      create index audit_child on audit (school_id, child_id);
    `);
  }

  override down(): void {
    this.addSql(`
      drop table audit, week_reading, note;
      drop index response_sitting;
      alter table judgement drop column working_number;
      alter table child drop column archived_at;
      alter table class drop column archived_at;
      alter table adult drop column role;
    `);
  }
}
