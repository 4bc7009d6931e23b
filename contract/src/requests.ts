import {
  ANSWER_MODES,
  CHOSEN_MODES,
  EXPOSURE_MS,
  isFact,
  OPTION_NAMES,
  READING_WORDS,
  ROUTINES,
  SEEN_LAYOUTS,
  USUAL_OPTIONS,
  USUAL_WORDS,
  valuesOf,
  WORD_CHOICES,
  type Options,
  type Words,
} from '@vane/core';
import * as z from 'zod';
import { recordRow } from './record';
import { newPassword } from './passwords';
import { filledLine, folded, line, moment } from './text';
import { timeZone } from './timeZone';
import type { Told } from './told';

/** What the browser sends. Every body is checked against one of these before anything else looks at it. */
export const signInRequest = z.object({ email: line(200).min(1), password: z.string().min(1).max(200) });

export const nicknames = z
  .array(filledLine(40))
  .max(60)
  .refine((names) => new Set(names.map(folded)).size === names.length, 'every nickname must be different');

/** First start without the demo: the school, its first class, and the adult who sets it up. */
export const setUpRequest = z.object({
  /** As the window shows it where Vane was started. */
  code: line(40),
  school: filledLine(80),
  className: filledLine(40),
  name: filledLine(80),
  email: z.email().max(200),
  password: newPassword,
  timeZone: timeZone.default('Europe/London'),
  children: nicknames,
});

/** A class's own words and options; what is stored without one of them means the usual one. */
const words = z.object(
  Object.fromEntries(
    Object.entries(WORD_CHOICES).map(([word, choices]) => [word, z.enum(choices).default(choices[0])]),
  ),
) as unknown as z.ZodType<Words, Partial<Words>>;
const options = z.object(
  Object.fromEntries(OPTION_NAMES.map((name) => [name, z.enum(valuesOf(name)).default(USUAL_OPTIONS[name])])),
) as unknown as z.ZodType<Options, Partial<Options>>;

/** How a carpet sitting is run; remembered for the class. */
export const carpetSettings = z.object({
  routine: z
    .string()
    .refine((id) => ROUTINES.some((routine) => routine.id === id), 'is no routine')
    .default('flash-and-say'),
  layout: z.enum(SEEN_LAYOUTS),
  /** Milliseconds a show is to be seen; null = it stays. */
  exposureMs: z.number().int().min(EXPOSURE_MS.least).max(EXPOSURE_MS.most).nullable(),
  /** How long the ready before a show is, milliseconds; null = by hand. */
  readyMs: z.number().int().min(500).max(10_000).nullable().default(1000),
  answerMode: z.enum(CHOSEN_MODES),
  shows: z.number().int().min(1).max(40),
  zeroToo: z.boolean(),
  /** Wholes of the number facts asked. */
  wholeFrom: z.number().int().min(2).max(10).default(3),
  wholeTo: z.number().int().min(2).max(10).default(6),
  /** Every child on the wholes chosen, or each on their own working number. */
  numbers: z.enum(['same', 'own']).default('same'),
  /** Whether the picture may be seen again; only the first look is judged either way. */
  secondLook: z.boolean().default(true),
  /** One screen for all; the stage on another; or a child alone with the other. */
  screens: z.enum(['one', 'two', 'alone']).default('one'),
  words: words.default(USUAL_WORDS),
  options: options.default(USUAL_OPTIONS),
});
export type CarpetSettings = Told<z.infer<typeof carpetSettings>>;

export const DEFAULT_CARPET: CarpetSettings = {
  routine: 'flash-and-say',
  layout: 'frame-fives',
  exposureMs: 750,
  readyMs: 1000,
  answerMode: 'tap',
  shows: 10,
  zeroToo: false,
  wholeFrom: 3,
  wholeTo: 6,
  numbers: 'same',
  secondLook: true,
  screens: 'one',
  words: USUAL_WORDS,
  options: USUAL_OPTIONS,
};

export const sittingRow = z.object({
  id: line(64).min(1),
  routine: line(40).min(1),
  started_at: moment,
  answer_mode: z.enum(ANSWER_MODES),
  settings: carpetSettings.nullable(),
});
export type SittingRow = Told<z.infer<typeof sittingRow>>;

/** A batch from a device. Sending it twice is the same as sending it once. */
export const recordBatch = z.object({
  sittings: z.array(sittingRow).max(200),
  responses: z.array(recordRow).max(500),
  /** The device's clock as it sends: one that is wrong is told by it. */
  sent_at: moment.optional(),
});
export type RecordBatch = Told<z.infer<typeof recordBatch>>;

/** A teacher's own word on a fact, against or beside Vane's. */
export const overruleRequest = z.object({
  fact: line(60).min(1).refine(isFact, 'is no fact within ten'),
  reading: z.enum(READING_WORDS),
  reason: line(300).min(3, 'say why in a few words'),
});
