import { AIMS } from '@vane/core';
import * as z from 'zod';

/** What a teacher made of a day's plan; kept on the device until the day is over. */
export const dayPlan = z.object({
  aim: z.enum(AIMS),
  /** Minutes there are. */
  minutes: z.number().int().min(1).max(60),
  /** Sittings kept at the top, put off, and put into an order by hand, by id. */
  pinned: z.array(z.string()),
  skipped: z.array(z.string()),
  order: z.array(z.string()),
  /** Children who changed places: either sits where the other was proposed. */
  swapped: z.array(z.tuple([z.string(), z.string()])),
});
export type DayPlan = z.infer<typeof dayPlan>;

export const NEW_DAY: DayPlan = { aim: 'practise', minutes: 8, pinned: [], skipped: [], order: [], swapped: [] };
