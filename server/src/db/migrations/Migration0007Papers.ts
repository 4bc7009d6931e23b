import { Migration } from '@mikro-orm/migrations';

/** Sheets for helpers without a device, and what came in as a file, so that it can be taken back. */
export class Migration0007Papers extends Migration {
  override up(): void {
    this.addSql(`
      create table group_sheet (
        school_id uuid not null, code text not null, class_id uuid not null, made_at timestamptz not null, children jsonb not null, facts jsonb not null,
        keyed_at timestamptz, primary key (school_id, code), foreign key (school_id, class_id) references class on delete cascade);
      create index group_sheet_class on group_sheet (school_id, class_id, made_at);

      create table import (
        school_id uuid not null, id uuid not null, class_id uuid, made_at timestamptz not null, adult_name text not null, what text not null,
        added int not null, primary key (school_id, id), foreign key (school_id, class_id) references class on delete cascade);
      create index import_class on import (school_id, class_id, made_at);

      alter table class add column import_id uuid;
      alter table child add column import_id uuid;
      alter table sitting add column import_id uuid;
      alter table response add column import_id uuid;
      create index child_import on child (school_id, import_id) where import_id is not null;
      create index sitting_import on sitting (school_id, import_id) where import_id is not null;
      create index response_import on response (school_id, import_id) where import_id is not null;
    `);
  }

  override down(): void {
    this.addSql(`
      alter table response drop column import_id; alter table sitting drop column import_id; alter table child drop column import_id; alter table class drop column import_id;
      drop table import, group_sheet;
    `);
  }
}
