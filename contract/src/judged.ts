import {
  ANSWER_MODES,
  READING_WORDS,
  STRATEGIES,
  SUPPORTS,
  type ChildEstimate,
  type ChildTimes,
  type ClassValues,
  type HowMeasured,
  type MeasuresLately,
  MOVED_BY,
  type Moved,
  type Reading,
  type ReadingSettings,
  type SessionSum,
} from '@vane/core';
import * as z from 'zod';

/** What `core` judges, as it crosses the wire. */
const probability = z.number().min(0).max(1);
const count = z.number().int().min(0);
export const id = z.string().min(1);
/** A moment as the server tells it. */
export const at = z.iso.datetime();

export const measuresLately: z.ZodType<MeasuresLately> = z.strictObject({
  copies: z.partialRecord(z.enum(ANSWER_MODES), count),
  counts: count,
});

export const childTimes: z.ZodType<ChildTimes> = z.strictObject({
  hand: z.partialRecord(z.enum(ANSWER_MODES), z.number()),
  retrieve: z.number(),
  pace: z.number(),
  unevenness: z.number(),
  countsAll: probability,
  lapseRate: probability,
  lapseSeconds: z.number(),
});

export const childEstimate: z.ZodType<ChildEstimate> = z.strictObject({
  child: id,
  times: childTimes,
  // An older Vane's have none.
  hands: z.partialRecord(z.enum(ANSWER_MODES), z.record(z.string(), z.number())).default({}),
  copies: z.record(z.string(), count),
  counts: count,
  halfLifeDays: z.number(),
});

export const reading: z.ZodType<Reading> = z.strictObject({
  child: id,
  fact: id,
  reading: z.enum(READING_WORDS),
  pAutomatic: probability,
  lean: z.number().min(-1).max(1),
  certainty: probability,
  responses: count,
  days: count,
  reason: z.discriminatedUnion('code', [
    z.strictObject({ code: z.literal('leads'), strategy: z.enum(STRATEGIES) }),
    z.strictObject({ code: z.literal('needs-answers'), more: count }),
    z.strictObject({
      code: z.enum([
        'quick-on-days',
        'fits-the-rest',
        'mostly-wrong',
        'needs-another-day',
        'in-between',
        'probably-known',
        'ask-the-child',
      ]),
    }),
  ]),
});

export const moved: z.ZodType<Moved> = z.strictObject({
  fact: id,
  before: reading.nullable(),
  after: reading,
  by: z.enum(MOVED_BY),
});

export const sessionSum: z.ZodType<SessionSum> = z.strictObject({ judged: count, wrong: count, helped: count });

export const readingSettings: z.ZodType<ReadingSettings> = z.strictObject({
  timeZone: z.string(),
});

const shared = z.strictObject({ median: z.number(), sd: z.number() });
const fieldValues = z.strictObject({
  mean: z.array(z.number()),
  variance: z.array(z.number()),
  familyVariance: z.number(),
  operationVariance: z.number(),
  ownVariance: z.number(),
});
export const classValues: z.ZodType<ClassValues> = z.strictObject({
  times: z.strictObject({ hand: shared, retrieveOverHand: shared, paceOverHand: shared, unevenness: shared }),
  lapseRate: probability,
  lapseSeconds: z.number(),
  countsAll: probability,
  sources: z.record(z.string(), z.strictObject({ shift: z.number(), copies: count })),
  adults: z.record(z.string(), z.strictObject({ trust: probability, slips: probability, signs: count, copies: count })),
  others: z.tuple([z.number(), z.number(), z.number()]),
  scatters: z.array(probability),
  changes: z.array(probability),
  forgettings: z.array(probability),
  fields: z.array(z.strictObject({ number: fieldValues, seeing: fieldValues })),
});

/** What Vane has learned of how the adult who asks, and the device, measure. */
export const howMeasured: z.ZodType<HowMeasured> = z.discriminatedUnion('what', [
  z.strictObject({
    what: z.literal('late'),
    by: z.enum(['adult', 'device']),
    mode: z.enum(ANSWER_MODES),
    ms: z.number().int(),
    copies: count,
  }),
  z.strictObject({ what: z.literal('signs'), signs: count, trust: probability }),
  z.strictObject({ what: z.literal('slips'), slips: probability, copies: count }),
]);

export const supports = z.array(z.enum(SUPPORTS));
