import { Migration } from '@mikro-orm/migrations';

/** The demo's school: what is deleted there comes back with it. */
const DEMO_SCHOOL_ID = '0197a000-0000-7000-8000-000000000001';
/** What is remembered when it is deleted, and by which of its columns its school is known. */
const REMEMBERED = { school: 'id', adult: 'school_id', child: 'school_id' };

/**
 * Who may work with which class stands in one view, which everything asks. Ids of what was erased stay, so that neither a backup nor a device brings it back; what comes again on purpose is
 * struck off. A sign-in knows when its adult was last there. Setting up asks for a code. How far
 * the calendar has been believed is kept, as a clock may be wrong.
 */
export class Migration0021OneRule extends Migration {
  override up(): void {
    this.addSql(`
      create view class_right as
        select a.school_id, a.id as adult_id, k.id as class_id from adult a join class k on k.school_id = a.school_id
        where a.role = 'lead' or exists (
          select 1 from class_adult g where g.school_id = a.school_id and g.class_id = k.id and g.adult_id = a.id);

      alter table sign_in add column active_at timestamptz not null default now();

      create table set_up_code (
        id int primary key default 1 check (id = 1),
        hash text not null,
        made_at timestamptz not null);

      create table trimmed (
        id int primary key default 1 check (id = 1),
        until timestamptz not null);

      create table erased (
        school_id uuid not null,
        what text not null,
        id text not null,
        at timestamptz not null,
        primary key (school_id, what, id));
      create function remember_erased() returns trigger language plpgsql as $$
        begin
          insert into erased (school_id, what, id, at)
            select e.school_id, tg_table_name, e.id, now()
            from (select (to_jsonb(g) ->> tg_argv[0])::uuid as school_id, g.id::text as id from gone g) e
            where e.school_id <> '${DEMO_SCHOOL_ID}' and (tg_table_name = 'school' or exists (select 1 from school s where s.id = e.school_id))
            on conflict do nothing;
          if tg_table_name = 'school' then
            -- All that was in it is gone with it.
            delete from erased e using gone g where e.school_id = g.id and e.what <> 'school';
          end if;
          return null;
        end $$;
      create function strike_off_erased() returns trigger language plpgsql as $$
        begin
          delete from erased e using fresh f
            where e.school_id = (to_jsonb(f) ->> tg_argv[0])::uuid and e.what = tg_table_name and e.id = f.id::text;
          return null;
        end $$;
      ${Object.entries(REMEMBERED)
        .map(
          ([table, school]) => `
      create trigger remember_erased after delete on ${table} referencing old table as gone for each statement execute function remember_erased('${school}');
      create trigger strike_off_erased after insert on ${table} referencing new table as fresh for each statement execute function strike_off_erased('${school}');`,
        )
        .join('\n')}
    `);
  }

  override down(): void {
    throw new Error('what was erased since would come back: restore a backup of before');
  }
}
