import * as z from 'zod';
import { newPassword } from './passwords';
import { ROLES, type Role } from './people';
import { filledLine, line } from './text';
import { timeZone } from './timeZone';

/** For unlocking a device that is signed in already. */
export const pin = z.string().regex(/^\d{4,8}$/, 'must be four to eight digits');
const token = z.string().regex(/^[\w-]{20,100}$/, 'is no link of this kind');

export const inviteRequest = z.object({
  name: filledLine(80),
  email: z.email().max(200),
  role: z.enum(ROLES),
  classes: z.array(z.uuid()).max(50),
});
export type InviteRequest = z.infer<typeof inviteRequest>;
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
export type AdultChange = z.infer<typeof adultChange>;

/** Whom an invitation is for. */
export interface Invitation {
  readonly school: string;
  readonly name: string;
  readonly email: string;
}

export interface AdultView {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly classes: readonly string[];
}

/** An invitation that nobody has taken up yet. */
export interface InviteView {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly expiresAt: string;
}

/** A letter in the simulated mail folder. */
export interface LetterView {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly at: string;
}

export interface AuditView {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly what: string;
  readonly detail: string;
}

export interface SchoolView {
  readonly adults: readonly AdultView[];
  readonly invites: readonly InviteView[];
  /** How long records of children who are put away are kept, in months. */
  readonly keepMonths: number;
  /** Children put away longer than that: their records are due to be deleted. */
  readonly due: readonly {
    readonly id: string;
    readonly classId: string;
    readonly nickname: string;
    readonly since: string;
  }[];
}
export const keepChange = z.object({ keepMonths: z.number().int().min(1).max(120) });
export const timeZoneChange = z.object({ timeZone });
