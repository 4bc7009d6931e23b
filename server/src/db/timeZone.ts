import type { EntityManager } from '@mikro-orm/postgresql';
import { dayOfDate, startOfDay } from '@vane/core';
import { School } from './entities';

/** Where a school stands, as an IANA name. */
export async function timeZoneOf(em: EntityManager, schoolId: string): Promise<string> {
  return (await em.findOneOrFail(School, { id: schoolId }, { fields: ['timeZone'] })).timeZone;
}

/** Start of a date of the school's calendar. @param date YYYY-MM-DD @param daysLater days added to the date */
export const dateStarts = (date: string, timeZone: string, daysLater = 0): Date =>
  new Date(startOfDay(dayOfDate(date) + daysLater, timeZone));
