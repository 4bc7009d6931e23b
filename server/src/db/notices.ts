import type { EntityManager } from '@mikro-orm/postgresql';

/** What PostgreSQL's LISTEN and NOTIFY tell of screens. */
export const CHANNEL = 'vane_screen';
/** In the place of a screen's id: all of them. */
export const EVERY = '*';

export type Side = 'control' | 'stage';
/** What changed: a side's state, the screen is gone, somebody may have lost the right to see it, or this server stops. */
export type ScreenChange = Side | 'ended' | 'rights' | 'stopping';

/** What `pg_notify` is given to tell of a change; several stand behind each other with commas. */
export const notice = (screen: string, change: ScreenChange): [channel: string, payload: string] => [
  CHANNEL,
  `${screen} ${change}`,
];

/** A sign-in has ended: open streams check their rights again. */
export const rightsChanged = (em: EntityManager): Promise<unknown> =>
  em.execute('select pg_notify(?, ?)', notice(EVERY, 'rights'));
