import * as z from 'zod';
import { at, id } from './judged';
import { newPassword } from './passwords';
import { ROLES } from './people';
import { filledLine, line } from './text';
import { timeZone } from './timeZone';
import type { Told } from './told';

/** For unlocking a device that is signed in already. */
const pin = z.string().regex(/^\d{4,8}$/, 'must be four to eight digits');
/** The key of a link. */
export const token = z.string().regex(/^[\w-]{20,100}$/, 'is no link of this kind');

export const inviteRequest = z.object({
  name: filledLine(80),
  email: z.email().max(200),
  role: z.enum(ROLES),
  classes: z.array(z.uuid()).max(50),
});
export const joinRequest = z.object({ token, name: filledLine(80), password: newPassword });
export const resetWish = z.object({ email: line(200).min(1) });
export const resetRequest = z.object({ token, password: newPassword });
export const passwordChange = z.object({ old: z.string().min(1).max(200), password: newPassword });
/** A pin, or none; where there is one already, it has to be given. */
export const pinChange = z.object({ pin: pin.nullable(), old: line(20).optional() });
export const unlockRequest = z.object({ pin: line(20) });
export const adultChange = z.union([
  z.strictObject({ role: z.enum(ROLES) }),
  z.strictObject({ classes: z.array(z.uuid()).max(50) }),
]);

/** Whom an invitation is for. */
export const invitation = z.strictObject({ school: z.string(), name: z.string(), email: z.string() });

export const adultView = z.strictObject({
  id,
  name: z.string(),
  email: z.string(),
  role: z.enum(ROLES),
  classes: z.array(id),
});
export type AdultView = Told<z.infer<typeof adultView>>;

/** An invitation that nobody has taken up yet. */
const inviteView = z.strictObject({
  id,
  name: z.string(),
  email: z.string(),
  expiresAt: at,
  /** What became of its letter; null = there is none. */
  letter: z.enum(['waiting', 'sent', 'failed']).nullable(),
});
/** The link of an invitation that was just made, and whether a letter goes out. */
export const invited = z.strictObject({ link: z.url(), posted: z.boolean() });

/** A letter in the simulated mail folder. */
export const letterView = z.strictObject({ to: z.string(), subject: z.string(), text: z.string(), at });
export type LetterView = Told<z.infer<typeof letterView>>;

export const auditView = z.strictObject({ id, at, by: z.string(), what: z.string(), detail: z.string() });
export type AuditView = Told<z.infer<typeof auditView>>;

export const schoolView = z.strictObject({
  adults: z.array(adultView),
  invites: z.array(inviteView),
  /** How long records of children who are put away are kept, in months. */
  keepMonths: z.number().int(),
  /** Children put away longer than that: their records are due to be deleted. */
  due: z.array(z.strictObject({ id, classId: id, nickname: z.string(), since: at })),
});
export type SchoolView = Told<z.infer<typeof schoolView>>;
export const keepChange = z.object({ keepMonths: z.number().int().min(1).max(120) });
export const timeZoneChange = z.object({ timeZone });

/** Holidays and other days without school, both ends among them. */
export const daysOff = z
  .array(
    z
      .strictObject({ from: z.iso.date(), to: z.iso.date() })
      .refine(({ from, to }) => from <= to, { path: ['to'], error: 'is before its first day' }),
  )
  .max(60);
export const daysOffChange = z.object({ daysOff });
