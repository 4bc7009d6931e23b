import * as z from 'zod';
import { token } from './adults';
import { id } from './judged';
import { filledLine } from './text';
import { timeZone } from './timeZone';
import type { Told } from './told';

/** Whoever runs Vane opens schools and sees how each stands, by a link for a day: nothing of children but how many there are. */
export const openService = z.object({ token });

export const schoolHere = z.strictObject({
  id,
  name: z.string(),
  /** The database it lives in. */
  shard: z.string(),
  /** It is just being moved to another. */
  moving: z.boolean(),
  adults: z.number().int(),
  classes: z.number().int(),
  children: z.number().int(),
  /** As many children at the same time as it may have; null = any number. */
  mostChildren: z.number().int().nullable(),
  /** Where answers to its letters go. */
  replyTo: z.string().nullable(),
  /** Judging and letters that failed for good. */
  failed: z.number().int(),
});
export type SchoolHere = Told<z.infer<typeof schoolHere>>;

export const serviceView = z.strictObject({
  schools: z.array(schoolHere),
  /** Databases that a school can be opened in, the first before the others. */
  shards: z.array(z.string()),
});
export type ServiceView = Told<z.infer<typeof serviceView>>;

export const leadWish = z.object({ name: filledLine(80), email: z.email().max(200) });
export const schoolWish = z.object({
  name: filledLine(80),
  timeZone,
  lead: leadWish,
  shard: z.string().min(1).max(40),
});
export const limitsChange = z.strictObject({
  mostChildren: z.number().int().min(1).max(1_000_000).nullable(),
  replyTo: z.email().max(200).nullable(),
});
/** The link by which a lead joins. */
export const joinLink = z.strictObject({ link: z.url() });
