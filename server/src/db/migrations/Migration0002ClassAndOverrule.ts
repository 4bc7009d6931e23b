import { Migration } from '@mikro-orm/migrations';

/** What a class has in common, learned from its record; and a teacher's own word against a reading. */
export class Migration0002ClassAndOverrule extends Migration {
  override up(): void {
    this.addSql(`
      create table class_fit (
        school_id uuid not null, class_id uuid not null, model_version text not null, responses int not null, values jsonb not null, fitted_at timestamptz not null,
        primary key (school_id, class_id), foreign key (school_id, class_id) references class on delete cascade);

      create table overrule (
        school_id uuid not null, id uuid not null, class_id uuid not null, child_id uuid not null, fact text not null, reading text not null, reason text not null,
        adult_id uuid not null, adult_name text not null, made_at timestamptz not null, removed_at timestamptz,
        primary key (school_id, id), foreign key (school_id, child_id) references child on delete cascade);
      create index overrule_child on overrule (school_id, child_id, fact);
    `);
  }

  override down(): void {
    this.addSql('drop table overrule, class_fit;');
  }
}
