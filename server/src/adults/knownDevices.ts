import { DAY_MS } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Context } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import type { Deps, Env } from '../request/context';
import { KnownDevice } from '../db/entities';
import { hashOf, newToken } from './tokens';

/** Cookie of a device on which an adult has signed in: guesses from elsewhere cannot lock this device out. It signs nobody in. */
const cookieName = ({ secureCookie }: Deps): string => (secureCookie ? '__Host-vane_device' : 'vane_device');
/** So long without a sign-in, and the mark is forgotten. */
export const DEVICE_LASTS_MS = 180 * DAY_MS;

interface Whose {
  readonly schoolId: string;
  readonly id: string;
}

const tokenOf = (c: Context<Env>, deps: Deps): string | null => {
  const token = getCookie(c, cookieName(deps));
  return token ? hashOf(token) : null;
};

/** The mark of this device for this adult (its hash); null where they have not signed in on it. */
export async function knownDevice(c: Context<Env>, deps: Deps, adult: Whose | null): Promise<string | null> {
  const tokenHash = tokenOf(c, deps);
  if (tokenHash === null || adult === null) return null;
  const { schoolId, id: adultId } = adult;
  const seenAt = { $gt: new Date(deps.now().getTime() - DEVICE_LASTS_MS) };
  return (await c.var.em.count(KnownDevice, { tokenHash, schoolId, adultId, seenAt })) > 0 ? tokenHash : null;
}

/** Sets the cookie, or renews it. */
export async function markDevice(c: Context<Env>, deps: Deps, adult: Whose): Promise<void> {
  const seenAt = deps.now();
  const known = await knownDevice(c, deps, adult);
  if (known !== null) {
    await c.var.em.nativeUpdate(KnownDevice, { tokenHash: known }, { seenAt });
    return;
  }
  const token = newToken();
  await c.var.em.insert(KnownDevice, {
    tokenHash: hashOf(token),
    schoolId: adult.schoolId,
    adultId: adult.id,
    seenAt,
  });
  setCookie(c, cookieName(deps), token, {
    httpOnly: true,
    sameSite: 'Strict',
    path: '/',
    secure: deps.secureCookie,
    expires: new Date(seenAt.getTime() + DEVICE_LASTS_MS),
  });
}

/** Forgets an adult's devices: all, or all but this one. */
export async function forgetDevices(
  em: EntityManager,
  { schoolId, id }: Whose,
  except: string | null = null,
): Promise<void> {
  await em.nativeDelete(KnownDevice, {
    schoolId,
    adultId: id,
    ...(except === null ? {} : { tokenHash: { $ne: except } }),
  });
}
