import { dateOfDay, english, ROUTINE_IDS, routinesFor, schoolDays, type WeekDay } from '@vane/core';
import * as z from 'zod';

export const WEEK_COLUMNS = ['day', 'session', 'title', 'routine', 'minutes', 'child', 'fact', 'role', 'why'] as const;

/** A row of a week's plan: one question of one child. Every cell is text. */
export const weekRow = z.object({
  day: z.iso.date(),
  session: z.coerce.number().int().min(1),
  title: z.string().min(1),
  routine: z.enum(ROUTINE_IDS),
  minutes: z.coerce.number().int().min(1),
  child: z.string().min(1),
  fact: z.string().min(1),
  role: z.enum(['need', 'warm', 'sure']),
  why: z.enum(['sure-start', 'sure-between', 'unsure', 'never-asked', 'to-learn', 'fading', 'next-number']),
});

/** A week's plan line by line, in the order of days, sessions, children and questions. */
export function weekCells(week: readonly WeekDay[], timeZone: string): string[][] {
  const dayOf = schoolDays(timeZone);
  return week.flatMap(({ day, sessions }) =>
    sessions.flatMap(({ needs, minutes, children }, at) =>
      children.flatMap(({ child, facts }) =>
        facts.map(({ fact, role, why }) => [
          dateOfDay(dayOf(day)),
          String(at + 1),
          english.plan.title(needs),
          routinesFor(needs[0]!)[0]!,
          String(minutes),
          child,
          fact,
          role,
          why,
        ]),
      ),
    ),
  );
}
