import { CARD_SIZE_NAMES, INKS, isFact, LAYOUTS, MATS, PAPERS, PRINT_NAMES, type PaperName } from '@vane/core';
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
  /** What is done differently for a child is printed only where it is ticked. */
  support: z.boolean().default(false),
  /** Code of a group sheet that was made before. */
  sheet: line(8).nullable().default(null),
});
export type PrintRequest = z.infer<typeof printRequest>;

/** A sheet for a helper without a device: which children are asked what. */
export const groupSheetRequest = z.object({
  children: z.array(z.uuid()).min(1).max(8),
  facts: z.array(line(60).refine(isFact, 'is no fact within ten')).min(1).max(20),
});
export type GroupSheetRequest = z.infer<typeof groupSheetRequest>;

export const groupSheetView = z.strictObject({
  children: z.array(id),
  facts: groupSheetRequest.shape.facts,
  code: z.string(),
  madeAt: at,
  /** When it was keyed in; null = not yet. */
  keyedAt: at.nullable(),
});
export type GroupSheetView = Told<z.infer<typeof groupSheetView>>;
