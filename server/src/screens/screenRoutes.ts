import { DAY_MS } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { OpenedScreen } from '@vane/contract';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import { streamSSE } from 'hono/streaming';
import { once } from 'node:events';
import { v7 } from 'uuid';
import type { Limits } from '../adults/limits';
import { hashOf, newCode, newToken, plainCode } from '../adults/tokens';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { qrFor } from '../request/forOthers';
import { Screen } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import type { Live } from './live';
import type { ScreenStates } from './states';
import { demandOpen, demandOpenSchool } from '../request/open';
import { notice, type Side } from '../db/notices';
import { logged } from '../problems/logged';

const COOKIE = 'vane_screen';
const CODE_LASTS_MS = 10 * 60_000;
export const SCREEN_LASTS_MS = DAY_MS;
const KEEP_ALIVE_MS = 15_000;

const OTHER: Record<Side, Side> = { control: 'stage', stage: 'control' };

/** A screen, and by what right it is followed. */
type Followed = Omit<Parameters<ScreenStates['read']>[0], 'side' | 'seen'>;

/** Streams the other side's state, now and on every change, until the browser disconnects, the screen ends, or the follower loses the right. */
function follow(c: Context<Env>, screens: Screens, which: Followed, side: Side): Response {
  const { deps, live, states } = screens;
  return streamSSE(c, async (stream) => {
    const over = new AbortController();
    stream.onAbort(() => over.abort());
    let sent = -1;
    let work = Promise.resolve();
    const send = async (): Promise<void> => {
      const now = await states.read({ ...which, side, seen: sent });
      // Of a school that is carried elsewhere the browser asks again, and finds it there.
      if (now === 'closed') return over.abort();
      if (now === null) {
        await stream.writeSSE({ event: 'ended', data: '' });
        return over.abort();
      }
      if (now.state === null || now.seq <= sent) return;
      sent = now.seq;
      await stream.writeSSE({ event: 'state', data: JSON.stringify(now) });
    };
    const beat = async (): Promise<void> => {
      await send();
      if (!over.signal.aborted) await stream.writeSSE({ event: 'still-here', data: '' });
    };
    /** One after the other; what fails ends the stream, and the browser comes back by itself. */
    const then = (act: () => Promise<void>): void => {
      work = work
        .then(() => (over.signal.aborted ? undefined : act()))
        .catch((error: unknown) => {
          deps.log.error({ error: logged(error) }, 'a screen could not be followed');
          over.abort();
        });
    };
    const end = await live.on(which.id, (change) => {
      if (change === 'stopping') over.abort();
      else if (change !== OTHER[side]) then(send);
    });
    const beats = setInterval(() => then(beat), KEEP_ALIVE_MS);
    then(send);
    if (!over.signal.aborted) await once(over.signal, 'abort');
    clearInterval(beats);
    end();
  });
}

/** What second screens are served with. */
interface Screens {
  readonly deps: Deps;
  readonly live: Live;
  readonly states: ScreenStates;
}

/** Stores a side's state. @throws RequestProblem that there is no such screen */
async function keep(screens: Screens, ...[side, kept]: Parameters<ScreenStates['keep']>): Promise<void> {
  if (!(await screens.states.keep(side, kept))) throw new RequestProblem('not-found');
}

/** The address that a device opens, and the same as a picture to be photographed; null where no other device can reach this Vane. */
async function joinOf(publicUrl: string, code: string): Promise<OpenedScreen['join']> {
  const address = `${new URL(publicUrl).origin}/board`;
  const qr = await qrFor(publicUrl, `${address}?code=${code}`);
  return qr === null ? null : { address, qr };
}

/** The adult's side: opens a screen, writes its state, and follows its events. */
export function controlRoutes(screens: Screens): ContractRoutes {
  const { deps } = screens;
  return new ContractRoutes()
    .on('POST /classes/:classId/screens', async (c) => {
      const { em, classKey } = c.var;
      const now = deps.now();
      const [id, code] = [v7(), newCode()];
      const until = new Date(now.getTime() + CODE_LASTS_MS);
      await em.insert(Screen, {
        ...classKey,
        id,
        codeHash: hashOf(code),
        tokenHash: null,
        madeAt: now,
        codeUntil: until,
        controlSeq: 0,
        stageSeq: 0,
      });
      const opened: OpenedScreen = { id, code, until: until.toISOString(), join: await joinOf(c.var.homeUrl, code) };
      return opened;
    })
    .on('PUT /classes/:classId/screens/:id', async (c, { id, body: { seq, state } }) => {
      await keep(screens, 'control', { ...c.var.classKey, id, seq, state });
    })
    .on('GET /classes/:classId/screens/:id/events', (c, { id }) => {
      const { schoolId, classId } = c.var.classKey;
      // Of this class, for as long as this sign-in lasts.
      return follow(c, screens, { schoolId, id, classId, signIn: c.var.signIn }, OTHER.control);
    })
    .on('DELETE /classes/:classId/screens/:id', async (c, { id }) => {
      if ((await c.var.em.nativeDelete(Screen, { ...c.var.classKey, id })) === 0) throw new RequestProblem('not-found');
      await c.var.em.execute('select pg_notify(?, ?)', notice(id, 'ended'));
    });
}

/** The screen of a paired device, and whether its school is closed. */
async function screenOf(em: EntityManager, tokenHash: string, since: Date) {
  const [found] = await em.execute<{ schoolId: string; id: string; closed: boolean }[]>(
    `select s.school_id as "schoolId", s.id, o.moving_at is not null as closed
     from screen s join school o on o.id = s.school_id where s.token_hash = ? and s.made_at > ?`,
    [tokenHash, since],
  );
  return found ?? null;
}

/** Lets only a paired device through. */
export const paired =
  (deps: Deps): MiddlewareHandler<Env> =>
  async (c, next) => {
    const token = getCookie(c, COOKIE);
    const since = new Date(deps.now().getTime() - SCREEN_LASTS_MS);
    const tokenHash = hashOf(token ?? '');
    const found = await screenOf(c.var.em, tokenHash, since);
    if (!found) throw new RequestProblem('not-paired');
    const { schoolId, id, closed } = found;
    demandOpen(closed);
    c.set('screen', { schoolId, id, tokenHash });
    return next();
  };

/** The stage's side: a code opens it once, its token is good for this sitting's screen and nothing else. */
export function stageRoutes(screens: Screens, limits: Limits): ContractRoutes {
  const { deps } = screens;
  return new ContractRoutes()
    .on('POST /board/pair', async (c, { body }) => {
      const now = deps.now();
      await limits.count('pair', c.var.address);
      const codeHash = hashOf(plainCode(body.code));
      const waiting = await c.var.em.findOne(
        Screen,
        { codeHash, codeUntil: { $gt: now } },
        { fields: ['schoolId', 'id'] },
      );
      if (!waiting) throw new RequestProblem('wrong-code');
      const { schoolId, id } = waiting;
      await demandOpenSchool(c.var.em, schoolId);
      const token = newToken();
      // In one step: of two who type the same code, one comes too late.
      const opened = { tokenHash: hashOf(token), codeHash: null };
      if ((await c.var.em.nativeUpdate(Screen, { schoolId, id, codeHash }, opened)) === 0)
        throw new RequestProblem('wrong-code');
      await limits.refund('pair', c.var.address);
      setCookie(c, COOKIE, token, {
        httpOnly: true,
        sameSite: 'Strict',
        path: '/api/board',
        secure: deps.secureCookie,
        maxAge: SCREEN_LASTS_MS / 1000,
      });
    })
    .on('PUT /board/stage', async (c, { body: { seq, state } }) => {
      const { schoolId, id } = c.var.screen;
      await keep(screens, 'stage', { schoolId, id, seq, state });
    })
    .on('GET /board/stage', async (c) => {
      const { stageSeq } = await c.var.em.findOneOrFail(Screen, c.var.screen);
      return { seq: stageSeq };
    })
    .on('GET /board/events', (c) => {
      const { schoolId, id, tokenHash } = c.var.screen;
      return follow(c, screens, { schoolId, id, tokenHash }, OTHER.stage);
    });
}
