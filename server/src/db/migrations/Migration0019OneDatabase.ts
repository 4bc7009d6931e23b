import { Migration } from '@mikro-orm/migrations';

/**
 * All schools live in this database. One that is closed, as it is carried to another Vane, refuses every write, also one that was under way: the trigger takes the lock that closing waits for.
 * What clears up or carries says so with `vane.closed_too`. Each migration from here on says which program can still work with it.
 */
export class Migration0019OneDatabase extends Migration {
  override up(): void {
    this.addSql(`
      drop table directory;
      drop table service_key;
      create table compatible (migration text primary key, oldest text not null);
      create function refuse_when_closed() returns trigger language plpgsql as $$
        declare
          which uuid;
          closed boolean;
        begin
          if current_setting('vane.closed_too', true) is distinct from 'on' then
            if tg_table_name = 'school' then
              closed := old.moving_at is not null;
              which := old.id;
            else
              if tg_op = 'DELETE' then which := old.school_id; else which := new.school_id; end if;
              select moving_at is not null into closed from school where id = which for key share;
            end if;
            if closed then raise exception 'school % is closed', which using errcode = 'VN001'; end if;
          end if;
          if tg_op = 'DELETE' then return old; else return new; end if;
        end $$;
      create trigger refuse_when_closed before update or delete on school for each row execute function refuse_when_closed();
      do $$
        declare which regclass;
        begin
          for which in
            select c.oid from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'school_id'
            where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
          loop
            execute format('create trigger refuse_when_closed before insert or update or delete on %s for each row execute function refuse_when_closed()', which);
          end loop;
        end $$;
    `);
  }
}
