import * as z from 'zod';
import { english } from '@vane/core';
import type { RecordRow } from './record';

/** An answer as a statement of xAPI 1.0.3 (ADL; IEEE 9274.1.1): who answered what, rightly or not, and when. */
export const statement = z.object({
  id: z.uuid(),
  actor: z.object({ objectType: z.literal('Agent'), account: z.object({ homePage: z.url(), name: z.string() }) }),
  verb: z.object({
    id: z.literal('http://adlnet.gov/expapi/verbs/answered'),
    display: z.object({ en: z.literal('answered') }),
  }),
  object: z.object({
    objectType: z.literal('Activity'),
    id: z.string().startsWith('urn:vane:fact:'),
    definition: z.object({
      type: z.literal('http://adlnet.gov/expapi/activities/cmi.interaction'),
      interactionType: z.literal('fill-in'),
      name: z.object({ en: z.string() }),
    }),
  }),
  result: z.object({
    response: z.string().optional(),
    success: z.boolean().optional(),
    /** ISO 8601, to a hundredth of a second as xAPI has it; left out where no time was taken. */
    duration: z.string().optional(),
    extensions: z.record(z.string(), z.unknown()),
  }),
  context: z.object({
    contextActivities: z.object({ grouping: z.array(z.object({ objectType: z.literal('Activity'), id: z.string() })) }),
  }),
  timestamp: z.iso.datetime({ offset: true }),
});
export type Statement = z.infer<typeof statement>;

/**
 * A response as a statement. The child is an account that only this Vane can tell the name of; what xAPI has no field for stands in extensions.
 * @param id the statement's, a UUID: always the same for the same response
 */
export const toStatement = (row: RecordRow, id: string, homePage: string): Statement => ({
  id,
  actor: { objectType: 'Agent', account: { homePage, name: row.child } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/answered', display: { en: 'answered' } },
  object: {
    objectType: 'Activity',
    id: `urn:vane:fact:${encodeURIComponent(row.fact)}`,
    definition: {
      type: 'http://adlnet.gov/expapi/activities/cmi.interaction',
      interactionType: 'fill-in',
      name: { en: english.fact(row.fact) },
    },
  },
  result: {
    ...(row.outcome === 'none' ? {} : { response: row.given, success: row.outcome === 'correct' }),
    ...(row.response_ms === null ? {} : { duration: `PT${(row.response_ms / 1000).toFixed(2)}S` }),
    extensions: {
      'urn:vane:response': row.response_id,
      'urn:vane:kind': row.kind,
      'urn:vane:answer_mode': row.answer_mode,
      'urn:vane:response_ms': row.response_ms,
      'urn:vane:exposure_ms': row.exposure_ms,
      'urn:vane:observed': row.observed,
      'urn:vane:aid': row.aid,
      'urn:vane:void': row.void,
      'urn:vane:flags': row.flags,
      'urn:vane:explanation': row.explanation,
      'urn:vane:help': row.help,
      'urn:vane:second_answer': row.second_answer,
    },
  },
  context: {
    contextActivities: {
      grouping: [{ objectType: 'Activity', id: `urn:vane:sitting:${encodeURIComponent(row.sitting)}` }],
    },
  },
  timestamp: row.shown_at,
});
