import { Migration } from '@mikro-orm/migrations';

/** Who marked a response, and on which device, as codes: each has a delay of its own. */
export class Migration0014WhoMarked extends Migration {
  override up(): void {
    this.addSql(`
      alter table response add column marked_by text not null default '', add column device text not null default '';
    `);
  }

  override down(): void {
    this.addSql(`
      alter table response drop column marked_by, drop column device;
    `);
  }
}
