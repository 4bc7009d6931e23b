import {
  CARD_SIZE_NAMES,
  FORMS,
  INKS,
  isFact,
  LAYOUTS,
  MATS,
  PAPERS,
  PRINT_NAMES,
  ROUTINE_IDS,
  type PaperName,
} from '@vane/core';
import * as z from 'zod';
import { at, id } from './judged';
import { line } from './text';
import type { Told } from './told';

const whole = z.number().int().min(0).max(10);

/** What is to be printed. What a print has no use for is left as it is. */
export const printRequest = z.object({
  what: z.enum(PRINT_NAMES),
  paper: z.enum(Object.keys(PAPERS) as PaperName[]).default('A4'),
  ink: z.enum(INKS).default('colour'),
  size: z.enum(CARD_SIZE_NAMES).default('middle'),
  cut: z.boolean().default(true),
  backs: z.boolean().default(true),
  answers: z.boolean().default(true),
  layouts: z.array(z.enum(LAYOUTS)).max(LAYOUTS.length).default(['frame-fives']),
  numbers: z.array(whole).max(11).default([]),
  mat: z.enum(MATS).default('ten'),
  child: z.uuid().nullable().default(null),
  /** Adjustments for a child are printed only where that is ticked. */
  support: z.boolean().default(false),
  /** Code of a group sheet that was made before. */
  sheet: line(8).nullable().default(null),
});
export type PrintRequest = z.infer<typeof printRequest>;

const fact = line(60).refine(isFact, 'is no fact within ten');
const whole10 = z.number().int().min(2).max(10);
export const plannedAsk = z.strictObject({ fact, form: z.enum(FORMS) });

/** A planned session on a sheet: its needs, what opens carpet time, about how long it takes, and each child's own questions in order, by the child's id. */
export const sheetSession = z.strictObject({
  needs: z
    .array(
      z.discriminatedUnion('need', [
        z.strictObject({ need: z.enum(['begin', 'finding out', 'seeing']) }),
        z.strictObject({ need: z.literal('anchor'), to: z.literal([5, 10]) }),
        z.strictObject({ need: z.enum(['pairs', 'undoing']), whole: whole10 }),
      ]),
    )
    .min(1)
    .max(8),
  opener: z.enum(ROUTINE_IDS).nullable(),
  minutes: z.number().int().min(1).max(120),
  asked: z.record(z.uuid(), z.array(plannedAsk).min(1).max(20)),
});
export type SheetOfSession = Told<z.infer<typeof sheetSession>>;

/** A sheet for a helper: which children are asked what. All the same facts, or, for a planned session, each its own. */
export const groupSheetRequest = z
  .object({
    children: z.array(z.uuid()).min(1).max(8),
    facts: z.array(fact).min(1).max(80),
    session: sheetSession.nullable().default(null),
  })
  .refine(
    ({ children, facts, session }) =>
      session === null ||
      (children.every((child) => child in session.asked) &&
        Object.entries(session.asked).every(
          ([child, asks]) => children.includes(child) && asks.every((ask) => facts.includes(ask.fact)),
        )),
    { path: ['session'], error: 'asks other children or facts than the sheet has' },
  );

export const groupSheetView = z.strictObject({
  children: z.array(id),
  facts: z.array(fact),
  session: sheetSession.nullable(),
  code: z.string(),
  madeAt: at,
  /** When it was keyed in; null = not yet. */
  keyedAt: at.nullable(),
  /** Until when a helper can open it by a link; null = not at all. */
  linkUntil: at.nullable(),
});
export type GroupSheetView = Told<z.infer<typeof groupSheetView>>;
