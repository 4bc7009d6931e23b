import { Migration } from '@mikro-orm/migrations';

const OF_CHILD = ['response', 'reading', 'judgement', 'overrule', 'week_reading', 'note'];

/**
 * What is of a child lies in the child's class, by the database itself: rows refer to the child with its class, and follow it. Those that had been left behind in a class that the child is no
 * longer in are put into the right one, and the school is told how many. An invitation remembers which adult made it; open ones, of which nobody knows, end.
 */
export class Migration0020OneClass extends Migration {
  override up(): void {
    this.addSql(`
      set local vane.closed_too = 'on';
      create temporary table put_right (school_id uuid, n bigint) on commit drop;
      ${OF_CHILD.map(
        (table) => `
      with moved as (
        update ${table} t set class_id = c.class_id from child c
        where c.school_id = t.school_id and c.id = t.child_id and c.class_id <> t.class_id returning t.school_id)
      insert into put_right select school_id, count(*) from moved group by school_id;`,
      ).join('\n')}
      update correction t set class_id = r.class_id from response r
        where r.school_id = t.school_id and r.id = t.response_id and r.class_id <> t.class_id;
      insert into audit (school_id, id, at, adult_id, adult_name, what, detail)
        select school_id, gen_random_uuid(), now(), null, '', 'put right', sum(n) || ' rows of children who had moved, into their present class'
        from put_right group by school_id;

      alter table child add constraint child_class unique (school_id, class_id, id);
      do $$
        declare one record;
        begin
          for one in select conrelid::regclass as own, conname from pg_constraint where contype = 'f' and confrelid = 'child'::regclass and conparentid = 0
          loop
            execute format('alter table %s drop constraint %I', one.own, one.conname);
          end loop;
        end $$;
      ${OF_CHILD.map(
        (table) =>
          `alter table ${table} add constraint ${table}_child foreign key (school_id, class_id, child_id) references child (school_id, class_id, id) on update cascade on delete cascade;`,
      ).join('\n')}

      alter table adult_link add column made_by uuid,
        add constraint adult_link_maker foreign key (school_id, made_by) references adult on delete cascade;
      insert into audit (school_id, id, at, adult_id, adult_name, what, detail)
        select school_id, gen_random_uuid(), now(), null, '', 'invitations ended', string_agg(name, ', ') || ': please invite them again'
        from adult_link where purpose = 'join' and expires_at > now() group by school_id;
      delete from adult_link where purpose = 'join';
    `);
  }

  override down(): void {
    throw new Error('rows that were put into the right class stay there: restore a backup of before');
  }
}
