import { Migration } from '@mikro-orm/migrations';

/** How a child said they did it, what helped after a first answer, and what they answered then. */
export class Migration0011HowTheySaidIt extends Migration {
  override up(): void {
    this.addSql(`
      alter table response
        add column explanation text not null default '',
        add column help jsonb not null default '[]',
        add column second_answer text not null default '';
    `);
  }

  override down(): void {
    this.addSql('alter table response drop column explanation, drop column help, drop column second_answer');
  }
}
