import { READING_WORDS } from '@vane/core';
import * as z from 'zod';
import { recordRow } from './record';
import { responseSchemas } from './responseColumns';
import { carpetSettings, sittingRow } from './requests';
import { supportKept } from './people';
import { filledLine, line, moment } from './text';
import type { Told } from './told';

/** What a correction may change, beside whose answer it was. */
const correctable = z.object({
  child: line(80),
  given: responseSchemas.given,
  outcome: responseSchemas.outcome,
  observed: line(120),
  void: responseSchemas.void,
});

/** A whole class as one file: everything but the readings, which are made anew from it. Children are named by nickname, so the file means the same in any school. */
export const classArchive = z.object({
  format: z.literal('vane-class'),
  /** 2 since responses have `explanation`, `help` and `second_answer`, which a file of version 1 lacks; 3 since there are the kind `part` and the flag `heard`. */
  version: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  class: z.object({
    name: filledLine(40),
    carpet: carpetSettings.nullable(),
    /** Thresholds of readings, which classes could have once; read, and not used. */
    reading: z.record(line(40), z.number()).nullable(),
  }),
  children: z
    .array(
      z.object({
        nickname: filledLine(40),
        archived_at: moment.nullable(),
        // Files from before support was kept lack both.
        support: supportKept.nullable().default(null),
        door: line(400).default(''),
      }),
    )
    .max(200),
  sittings: z.array(sittingRow).max(50_000),
  responses: z.array(recordRow).max(500_000),
  corrections: z
    .array(
      z.object({
        response_id: line(64),
        what: line(40),
        before: correctable,
        after: correctable,
        by: line(80),
        made_at: moment,
      }),
    )
    .max(100_000),
  overrules: z
    .array(
      z.object({
        child: line(80),
        fact: line(60),
        reading: z.enum(READING_WORDS),
        reason: line(400),
        by: line(80),
        made_at: moment,
        removed_at: moment.nullable(),
      }),
    )
    .max(50_000),
  notes: z
    .array(
      z.object({
        child: line(80).nullable(),
        sitting: line(64).nullable(),
        text: line(500),
        by: line(80),
        made_at: moment,
      }),
    )
    .max(50_000),
});
export type ClassArchive = Told<z.infer<typeof classArchive>>;
