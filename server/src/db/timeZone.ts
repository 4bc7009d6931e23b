import type { EntityManager } from '@mikro-orm/postgresql';
import { dayOfDate, startOfDay } from '@vane/core';
import { School } from './entities';

/** Where a school stands, as an IANA name. */
export async function timeZoneOf(em: EntityManager, schoolId: string): Promise<string> {
  return (await em.findOneOrFail(School, { id: schoolId }, { fields: ['timeZone'] })).timeZone;
}

/** The moment a school's date begins. @param date YYYY-MM-DD @param daysLater of another date, so many days later */
export const dateStarts = (date: string, timeZone: string, daysLater = 0): Date =>
  new Date(startOfDay(dayOfDate(date) + daysLater, timeZone));
