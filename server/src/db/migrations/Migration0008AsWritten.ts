import { Migration } from '@mikro-orm/migrations';

/**
 * Two migrations were edited after they had run on somebody's database: 0001, whose judgement was one of a class and became one of a child, and 0007, whose import was always of a class. Here
 * such a database gets what it lacks; others have it, and nothing happens to them. Judgements follow from the answers and are made anew.
 */
export class Migration0008AsWritten extends Migration {
  override up(): void {
    this.addSql(`
      do $do$ begin
        if not exists (
          select 1 from information_schema.columns where table_schema = 'public' and table_name = 'judgement' and column_name = 'child_id'
        ) then
          drop table judgement;
          delete from reading;
          create table judgement (
            school_id uuid not null, child_id uuid not null, class_id uuid not null, fingerprint text not null, model_version text not null,
            settings jsonb not null, estimate jsonb not null, judged_at timestamptz not null, working_number int, primary key (school_id, child_id),
            foreign key (school_id, child_id) references child on delete cascade);
          create index judgement_class on judgement (school_id, class_id);
        end if;
      end $do$;
      alter table import alter column class_id drop not null;
      alter table class add column if not exists import_id uuid;
    `);
  }

  override down(): void {
    // What was missing stays: nothing of it was here for this version alone.
  }
}
