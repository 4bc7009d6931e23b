import { AIMS, USUAL_WEEKDAYS } from '@vane/core';
import * as z from 'zod';
import { line } from './text';
import type { Told } from './told';

/** A planned session, by who works together. */
const sessions = z.array(line(600).min(1)).max(60);

/** What adults made of a class's day. */
export const dayPlan = z.strictObject({
  aim: z.enum(AIMS),
  /** Minutes there are. */
  minutes: z.number().int().min(1).max(120),
  /** Sessions kept at the top, put off, and put into an order by hand. */
  pinned: sessions,
  skipped: sessions,
  order: sessions,
  /** Children who changed places: either sits where the other was proposed. */
  swapped: z.array(z.tuple([line(64), line(64)])).max(200),
});
export type DayPlan = Told<z.infer<typeof dayPlan>>;

const awayBefore = z.strictObject({ day: z.number().int(), children: z.array(line(64)).max(60) });

/** What a class has for hearing children, and who is away. */
export const weekSettings = z.strictObject({
  /** Adults who can hear children at the same time. */
  adults: z.number().int().min(1).max(6),
  /** Minutes of each a day. */
  minutes: z.number().int().min(1).max(120),
  /** Most children together. */
  group: z.number().int().min(1).max(6),
  /** How often each child is to be heard in a calendar week. */
  times: z.number().int().min(1).max(5),
  /** Days on which children are heard, as ISO 8601 numbers them: 1 is Monday. */
  weekdays: z
    .array(z.number().int().min(1).max(7))
    .min(1)
    .max(7)
    .default([...USUAL_WEEKDAYS]),
  /** Who is away, from the first day to the last, counted as `core` counts school days. An earlier Vane named one day and its children. */
  away: z.preprocess(
    (told) => {
      const before = awayBefore.safeParse(told);
      return before.success
        ? before.data.children.map((child) => ({ child, from: before.data.day, to: before.data.day }))
        : told;
    },
    z.array(z.strictObject({ child: line(64), from: z.number().int(), to: z.number().int() })).max(200),
  ),
});
export type WeekSettings = Told<z.infer<typeof weekSettings>>;

/** Either, with when it was changed last, milliseconds since 1970 by the device's clock: of two that come from two devices the later one stands. */
const changedAt = z.number().min(0).max(8.64e15);
export const keptDay = z.strictObject({ changedAt, date: z.iso.date(), plan: dayPlan });
export type KeptDay = Told<z.infer<typeof keptDay>>;
export const keptWeek = z.strictObject({ changedAt, settings: weekSettings });

/** What a class has arranged; null = nothing yet. */
export const arrangements = z.strictObject({ day: keptDay.nullable(), week: keptWeek.nullable() });
export type Arrangements = Told<z.infer<typeof arrangements>>;
