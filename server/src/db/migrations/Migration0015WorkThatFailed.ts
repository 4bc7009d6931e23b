import { Migration } from '@mikro-orm/migrations';

/** Work on a class that failed for good, so that whoever waits for it is told, and a lead sees it. */
export class Migration0015WorkThatFailed extends Migration {
  override up(): void {
    this.addSql(`
      create table failed_work (
        school_id uuid not null, class_id uuid not null, what text not null, failed_at timestamptz not null, primary key (school_id, class_id, what),
        foreign key (school_id, class_id) references class on delete cascade);
    `);
  }

  override down(): void {
    this.addSql('drop table failed_work;');
  }
}
