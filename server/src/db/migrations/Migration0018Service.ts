import { Migration } from '@mikro-orm/migrations';

/** Letters are work: a link has a token of its own for its letter, and says what became of that. Schools have limits and an address for answers; whoever runs Vane has a page. */
export class Migration0018Service extends Migration {
  override up(): void {
    this.addSql(`
      alter table adult_link add column letter_hash text, add column letter text;
      create unique index adult_link_letter on adult_link (letter_hash) where letter_hash is not null;
      alter table school add column most_children int, add column reply_to text;
      create table service_key (token_hash text primary key, until timestamptz not null);
    `);
  }

  override down(): void {
    this.addSql(`
      alter table adult_link drop column letter_hash, drop column letter;
      alter table school drop column most_children, drop column reply_to;
      drop table service_key;
    `);
  }
}
