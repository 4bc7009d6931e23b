import type { MikroORM } from '@mikro-orm/postgresql';
import { Batched } from '../db/batched';
import { OPEN_SIGN_IN, openSignInAt } from '../adults/signIn';
import { CHANNEL, type Side } from '../db/notices';

/** A second screen's states, and who may see them. */
interface Follower {
  readonly schoolId: string;
  readonly id: string;
  /** The side whose state is followed. */
  readonly side: Side;
  /** The state that was sent last. */
  readonly seen: number;
  /** The right to it: a sign-in with this class, or the screen's own token. */
  readonly classId?: string;
  readonly signIn?: string;
  readonly tokenHash?: string;
}
/** What a side's state is now; `state` is null where it was seen before. */
interface Seen {
  readonly seq: number;
  readonly state: object | null;
}
interface Kept {
  readonly schoolId: string;
  readonly id: string;
  readonly classId?: string;
  readonly seq: number;
  readonly state: object;
}

/** One statement's screens: their notices fit into one of PostgreSQL's, 8000 bytes. */
const MOST_KEPT = 150;
const MOST_READ = 1000;

/** Second screens in the database. A thousand of them change and are followed with a few statements, not with one each. */
export class ScreenStates {
  readonly #reads: Batched<Follower, Seen | 'closed' | null>;
  readonly #keeps: Readonly<Record<Side, Batched<Kept, boolean>>>;

  /** @param lastsMs how long a screen's own token is good */
  constructor(
    private readonly orm: MikroORM,
    private readonly now: () => Date,
    private readonly lastsMs: number,
  ) {
    this.#reads = new Batched((all) => this.#read(all), MOST_READ);
    this.#keeps = {
      control: new Batched((all) => this.#keep('control', all), MOST_KEPT),
      stage: new Batched((all) => this.#keep('stage', all), MOST_KEPT),
    };
  }

  /** What a follower is to be told; null = there is no such screen any more, or no right to it; `closed` = its school is carried elsewhere. */
  read(follower: Follower): Promise<Seen | 'closed' | null> {
    return this.#reads.ask(follower);
  }

  /** Stores a side's state if it is newer, and tells all servers. @returns false where there is no such screen */
  keep(side: Side, kept: Kept): Promise<boolean> {
    return this.#keeps[side].ask(kept);
  }

  async #read(all: readonly Follower[]): Promise<(Seen | 'closed' | null)[]> {
    const now = this.now();
    const rows = await this.orm.em.fork().execute<{ n: number; seq: number; state: object | null; closed: boolean }[]>(
      `select w.n, now.seq::float8 as seq, case when now.seq > w.seen then now.state end as state, o.moving_at is not null as closed
       from json_to_recordset(?) as w(n int, "schoolId" uuid, id uuid, side text, seen bigint, "classId" uuid, "signIn" text, "tokenHash" text)
       join screen s on s.school_id = w."schoolId" and s.id = w.id join school o on o.id = s.school_id
       cross join lateral (
         select case w.side when 'control' then s.control_seq else s.stage_seq end as seq, case w.side when 'control' then s.control else s.stage end as state) now
       where (s.token_hash = w."tokenHash" and s.made_at > ?)
         or (s.class_id = w."classId" and exists (
           select 1 from sign_in i join adult a on a.school_id = i.school_id and a.id = i.adult_id
           join class_right r on r.school_id = a.school_id and r.adult_id = a.id and r.class_id = s.class_id
           where i.token_hash = w."signIn" and i.school_id = s.school_id and ${OPEN_SIGN_IN}))`,
      [
        JSON.stringify(all.map((one, n) => ({ n, ...one }))),
        new Date(now.getTime() - this.lastsMs),
        ...openSignInAt(now),
      ],
    );
    const found = new Map(rows.map(({ n, seq, state, closed }) => [n, closed ? ('closed' as const) : { seq, state }]));
    return all.map((_, n) => found.get(n) ?? null);
  }

  /**
   * The commit is asynchronous: a notifying commit serialises all others, and a state lost in a power cut is replaced by the next one. Screens are locked in the order of their ids, so
   * that two servers never wait for each other.
   */
  async #keep(side: Side, all: readonly Kept[]): Promise<boolean[]> {
    // Of several states of one screen the newest.
    const newest = new Map<string, Kept>();
    for (const one of all) if ((newest.get(one.id)?.seq ?? -1) < one.seq) newest.set(one.id, one);
    const [told] = await this.orm.em.fork().execute<{ there: string[] }[]>(
      `with asked as (
           select * from json_to_recordset(?) as a("schoolId" uuid, id uuid, "classId" uuid, seq bigint, state jsonb)),
         there as materialized (
           select s.school_id, s.id from screen s join asked a on s.school_id = a."schoolId" and s.id = a.id and s.class_id = coalesce(a."classId", s.class_id)
           order by s.school_id, s.id for update of s),
         kept as (
           update screen s set ${side} = a.state, ${side}_seq = a.seq from asked a join there t on t.school_id = a."schoolId" and t.id = a.id
           where s.school_id = t.school_id and s.id = t.id and s.${side}_seq < a.seq returning s.id),
         notice as (select string_agg(id || ' ' || ?, ',') as payload from kept)
       select set_config('synchronous_commit', 'off', true), case when payload is not null then pg_notify(?, payload) end,
         array(select id::text from there) as there from notice`,
      [JSON.stringify([...newest.values()]), side, CHANNEL],
    );
    const there = new Set(told?.there);
    return all.map(({ id }) => there.has(id));
  }
}
