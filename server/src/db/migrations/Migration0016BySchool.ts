import { Migration } from '@mikro-orm/migrations';

const PARTS = 16;

/** A table of the same columns, in parts by a hash of the school, holding what the old one held. */
const inParts = (table: string): string => `
  alter table ${table} rename to ${table}_whole;
  create table ${table} (like ${table}_whole including defaults) partition by hash (school_id);
  ${Array.from({ length: PARTS }, (_, part) => `create table ${table}_${part} partition of ${table} for values with (modulus ${PARTS}, remainder ${part});`).join('\n')}
  insert into ${table} select * from ${table}_whole;
  drop table ${table}_whole cascade;
`;

/** Each part refers to the part of the other table in which the same schools lie: as quick to check as between whole tables, which a reference from all to all is not. */
const refers = (table: string, column: string, to: string): string =>
  Array.from(
    { length: PARTS },
    (_, part) =>
      `alter table ${table}_${part} add constraint ${table}_${part}_${to} foreign key (school_id, ${column}) references ${to}_${part} (school_id, id) on delete cascade;`,
  ).join('\n');

/**
 * The tables that grow fastest lie in parts, a school in one of them: indexes stay small, vacuum takes a part at a time, and parts can go to other disks. Keys are as they were. A filled
 * database is carried over in one step; a gigabyte of responses takes some minutes, in which nothing is written.
 */
export class Migration0016BySchool extends Migration {
  override up(): void {
    this.addSql(`
      ${['sitting', 'response', 'correction'].map(inParts).join('')}
      alter table sitting add primary key (school_id, id),
        add constraint sitting_school_id_class_id_fkey foreign key (school_id, class_id) references class on delete cascade;
      create index sitting_class on sitting (school_id, class_id, started_at);
      create index sitting_import on sitting (school_id, import_id) where import_id is not null;

      alter table response add primary key (school_id, id),
        add constraint response_school_id_child_id_fkey foreign key (school_id, child_id) references child on delete cascade;
      ${refers('response', 'sitting_id', 'sitting')}
      create index response_class on response (school_id, class_id, shown_at, id);
      create index response_child on response (school_id, child_id, shown_at);
      create index response_received on response (school_id, class_id, received_at);
      create index response_log on response (school_id, class_id, shown_at desc, id desc);
      create index response_sitting on response (school_id, sitting_id);
      create index response_import on response (school_id, import_id) where import_id is not null;

      alter table correction add primary key (school_id, id);
      ${refers('correction', 'response_id', 'response')}
      create index correction_response on correction (school_id, response_id, made_at);

      alter table note add constraint note_school_id_sitting_id_fkey foreign key (school_id, sitting_id) references sitting on delete cascade;
      analyze sitting, response, correction;
    `);
  }

  override down(): void {
    throw new Error('responses in parts are not put together again: restore a backup of before');
  }
}
