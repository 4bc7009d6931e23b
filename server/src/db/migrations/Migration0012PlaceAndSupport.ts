import { Migration } from '@mikro-orm/migrations';

/** A child's place on the path at the end of each week, and what an older version of the judgement said of it; what is done differently for a child; what is said at the door. */
export class Migration0012PlaceAndSupport extends Migration {
  override up(): void {
    this.addSql(`
      alter table week_reading add column help text, add column older jsonb;
      alter table child
        add column supports jsonb not null default '[]',
        add column support_words text not null default '',
        add column support_by text not null default '',
        add column support_at timestamptz,
        add column door text not null default '';
    `);
  }

  override down(): void {
    this.addSql(`
      alter table week_reading drop column help, drop column older;
      alter table child drop column supports, drop column support_words, drop column support_by, drop column support_at, drop column door;
    `);
  }
}
