import type { EntityManager } from '@mikro-orm/postgresql';
import { dayOfDate, schoolDays, startOfDay } from '@vane/core';
import { School } from './entities';

/** Where a school stands, as an IANA name. */
export async function timeZoneOf(em: EntityManager, schoolId: string): Promise<string> {
  return (await em.findOneOrFail(School, { id: schoolId }, { fields: ['timeZone'] })).timeZone;
}

/** Start of a date of the school's calendar. @param date YYYY-MM-DD @param daysLater days added to the date */
export const dateStarts = (date: string, timeZone: string, daysLater = 0): Date =>
  new Date(startOfDay(dayOfDate(date) + daysLater, timeZone));

/** Start of the day of the school's calendar that a moment falls on. @param daysLater days added to it */
export const dayStarts = (at: Date, timeZone: string, daysLater = 0): Date =>
  new Date(startOfDay(schoolDays(timeZone)(at.getTime()) + daysLater, timeZone));
