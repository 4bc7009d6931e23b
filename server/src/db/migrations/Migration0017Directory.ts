import { Migration } from '@mikro-orm/migrations';

/** Schools may live in several databases: the first one's directory says where. A school that is being moved says so. */
export class Migration0017Directory extends Migration {
  override up(): void {
    this.addSql(`
      create table directory (school_id uuid primary key, shard text not null);
      alter table school add column moving_at timestamptz;
    `);
  }

  override down(): void {
    this.addSql('drop table directory; alter table school drop column moving_at;');
  }
}
