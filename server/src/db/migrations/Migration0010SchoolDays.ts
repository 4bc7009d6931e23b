import { Migration } from '@mikro-orm/migrations';

/** Where a school stands: its days, weeks and dates are those of its own calendar. */
export class Migration0010SchoolDays extends Migration {
  override up(): void {
    this.addSql(`alter table school add column time_zone text not null default 'Europe/London'`);
  }

  override down(): void {
    this.addSql('alter table school drop column time_zone');
  }
}
