import {
  classArchive,
  readingCells,
  READING_COLUMNS,
  readingRow,
  recordRow,
  statement,
  toRow,
  toStatement,
  WEEK_COLUMNS,
  weekCells,
  weekRow,
  type ClassArchive,
} from '@vane/contract';
import {
  DAY_MS,
  HARBOUR_CHILDREN,
  judgeClass,
  planWeek,
  seeded,
  simulateClass,
  DEFAULT_READING_SETTINGS,
} from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { v7 } from 'uuid';
import * as z from 'zod';
import { headerLine, responseLines } from '../record/csv';

const SEED = 20_26;
const UNTIL = Date.parse('2026-11-25T12:00:00Z');
const CHILDREN = HARBOUR_CHILDREN.slice(0, 2);
/** Rows of an example: enough to see every column at work. */
const ROWS = 40;

const schema = (title: string, of: z.ZodType): string =>
  `${JSON.stringify({ title, ...(z.toJSONSchema(of, { io: 'input', unrepresentable: 'any' }) as object) }, null, 2)}\n`;

/** Every format with its JSON Schema, made from the contract, and an example from the harbour: by file name. The same on any day and machine. */
export function formatFiles(): Map<string, string> {
  const random = seeded(SEED);
  const makeId = (msecs: number): string =>
    v7({ msecs, random: Uint8Array.from({ length: 16 }, () => Math.floor(256 * random())) });
  const { responses, sittings } = simulateClass({ seed: SEED, names: CHILDREN, weeks: 2, until: UNTIL, makeId });
  const rows = responses.slice(0, ROWS).map((r) => toRow(r));
  const judged = judgeClass(responses, { settings: DEFAULT_READING_SETTINGS });
  const readings = judged.flatMap((j) => j.readings);
  const week = planWeek({
    children: judged.map(({ estimate: { child }, readings: own }) => {
      const asked = responses.filter((r) => r.child === child);
      const lastAsked = new Map(asked.map((r) => [r.fact, r.shownAt]));
      return { child, readings: own, lastAsked, lastAskedAt: Math.max(...lastAsked.values()) };
    }),
    days: [1, 2].map((days) => UNTIL + days * DAY_MS),
    timeZone: 'Europe/London',
    adults: 1,
    minutes: 15,
    group: 4,
    times: 2,
  });
  const used = new Set(rows.map((row) => row.sitting));
  const archive: ClassArchive = {
    format: 'vane-class',
    version: 3,
    class: { name: 'Curlew', carpet: null, reading: null },
    children: CHILDREN.map((nickname) => ({ nickname, archived_at: null, support: null, door: '' })),
    sittings: sittings
      .filter((s) => used.has(s.id))
      .map((s) => ({
        id: s.id,
        routine: 'flash-and-say',
        started_at: new Date(s.startedAt).toISOString(),
        answer_mode: s.answerMode,
        settings: null,
      })),
    responses: rows.slice(0, 5),
    corrections: [],
    overrules: [
      {
        child: CHILDREN[0] ?? '',
        fact: '3+4',
        reading: 'knows',
        reason: 'told me how',
        by: 'Harbour keeper',
        made_at: '2026-11-25T10:00:00.000Z',
        removed_at: null,
      },
    ],
    notes: [],
  };
  const statements = rows.slice(0, 5).map((row) => toStatement(row, row.response_id, 'https://vane.example'));
  return new Map([
    ['responses.schema.json', schema('A response, as a row of responses.csv', recordRow)],
    ['responses.csv', headerLine([]) + responseLines(rows, [])],
    ['readings.schema.json', schema('A reading, as a row of readings.csv', readingRow)],
    [
      'readings.csv',
      stringify([[...READING_COLUMNS], ...readings.slice(0, ROWS).map((r) => Object.values(readingCells(r)))]),
    ],
    ['week.schema.json', schema('A question of a week’s plan, as a row of week.csv', weekRow)],
    ['week.csv', stringify([[...WEEK_COLUMNS], ...weekCells(week, 'Europe/London')])],
    ['class.schema.json', schema('A class as one archive', classArchive)],
    ['class.vane.json', `${JSON.stringify(archive, null, 1)}\n`],
    ['statement.schema.json', schema('A response as an xAPI statement', statement)],
    ['statements.jsonl', statements.map((one) => `${JSON.stringify(one)}\n`).join('')],
  ]);
}
