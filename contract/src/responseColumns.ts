import {
  AIDS,
  ANSWER_MODES,
  EXPLANATIONS,
  FACT_KINDS,
  FLAGS,
  HELPS,
  OUTCOMES,
  observedText,
  parseObserved,
  type Response,
} from '@vane/core';
import * as z from 'zod';
import { line, moment } from './text';

/** Longest time that is a time and not a forgotten clock: ten minutes, in milliseconds. */
const LONGEST_MS = 600_000;

/** How the time was measured: kept with the response for whoever wants to check. Milliseconds. */
export const quality = z.object({
  asked_ms: z.number().min(0).max(LONGEST_MS).nullable(),
  frame_ms: z.number().min(0).max(1000),
  frames_ms: z.array(z.number().min(0).max(LONGEST_MS)).max(2000),
  dropped_frames: z.number().int().min(0).max(100_000),
  /** Within how many milliseconds the clocks of two screens were matched; left out where one screen did all. */
  clock_ms: z.number().min(0).max(LONGEST_MS).optional(),
});
export type Quality = z.infer<typeof quality>;

/** How a value stands in a cell of the CSV file: `name` where the cell is called otherwise. */
interface Cell<T> {
  readonly name?: string;
  readonly write: (value: T) => string;
  readonly read: (text: string) => unknown;
}
interface Column<S extends z.ZodType> {
  readonly schema: S;
  /** `needed`: a file without it is no file of responses; `added`: Vane writes it, and other files may lack it; null = not in the file. */
  readonly csv: 'needed' | 'added' | null;
  readonly cell?: Cell<z.infer<S>>;
  /** Its column in the table `response`, where that is called otherwise. */
  readonly table?: string;
  /** Its value in a response of `core`; left out where a response has none. */
  readonly of?: (response: Response) => z.infer<S>;
}
const column = <S extends z.ZodType>(
  csv: Column<S>['csv'],
  schema: S,
  of?: Column<S>['of'],
  more: Pick<Column<S>, 'cell' | 'table'> = {},
): Column<S> => ({ csv, schema, ...(of ? { of } : {}), ...more });

const milliseconds: Cell<number | null> = {
  write: (ms) => (ms === null ? '' : String(ms)),
  read: (text) => (text.trim() === '' ? null : Number(text)),
};
const listed: Cell<readonly string[]> = {
  write: (items) => items.join(' '),
  read: (text) => text.split(' ').filter((item) => item !== ''),
};
const askedMs: Cell<Quality | null> = {
  name: 'asked_ms',
  write: (value) => milliseconds.write(value?.asked_ms ?? null),
  read: (text) => {
    const asked = milliseconds.read(text);
    return asked === null ? null : { asked_ms: asked, frame_ms: 0, frames_ms: [], dropped_frames: 0 };
  },
};
const time = z.number().min(0).max(LONGEST_MS).nullable();

/**
 * What a response consists of, in the order of the file: the schema of the wire, the header and cells of the CSV file, the columns of the table and the row of a response of `core` all follow from
 * here. docs/formats.md says what each means; docs/adding-a-column.md leads through a new one.
 */
const RESPONSE_COLUMNS = {
  response_id: column('needed', line(64).min(1), (r) => r.id, { table: 'id' }),
  child: column('needed', line(80).min(1), (r) => r.child, { table: 'child_id' }),
  sitting: column('needed', line(64).min(1), (r) => r.sitting, { table: 'sitting_id' }),
  shown_at: column('needed', moment, (r) => new Date(r.shownAt).toISOString()),
  kind: column('needed', z.enum(FACT_KINDS), (r) => r.kind),
  fact: column('needed', line(60).min(1), (r) => r.fact),
  answer_mode: column('needed', z.enum(ANSWER_MODES), (r) => r.answerMode),
  exposure_ms: column('needed', time, (r) => r.exposureMs, { cell: milliseconds }),
  response_ms: column('needed', time, (r) => r.responseMs, { cell: milliseconds }),
  given: column('needed', line(40), (r) => r.given),
  outcome: column('needed', z.enum(OUTCOMES), (r) => r.outcome),
  observed: column(
    'needed',
    line(120).refine(
      (text) => parseObserved(text) !== null,
      'must begin with knew, derived, counted or guessed, or with a colon',
    ),
    observedText,
  ),
  aid: column('needed', z.enum(AIDS), (r) => r.aid),
  void: column('needed', line(200), (r) => r.void),
  flags: column('added', z.array(z.enum(FLAGS)).max(FLAGS.length).default([]), (r) => [...r.flags], { cell: listed }),
  quality: column('added', quality.nullable().default(null), undefined, { cell: askedMs }),
  explanation: column('added', z.enum(['', ...EXPLANATIONS]).default(''), (r) => r.explanation ?? ''),
  help: column('added', z.array(z.enum(HELPS)).max(HELPS.length).default([]), (r) => [...r.help], { cell: listed }),
  second_answer: column('added', line(40).default(''), (r) => r.secondAnswer),
  marked_by: column('added', line(12).default(''), (r) => r.markedBy),
  device: column('added', line(12).default(''), (r) => r.device),
  /** Columns of an imported file that Vane does not know: kept as they came. */
  extra: column(null, z.record(line(60), line(400)).default({})),
} as const;
type Columns = typeof RESPONSE_COLUMNS;
type ResponseColumn = keyof Columns;

/** The columns one by one, without the types of their values. */
export const responseColumns = Object.entries(RESPONSE_COLUMNS) as unknown as readonly [
  ResponseColumn,
  Column<z.ZodType>,
][];

export const responseSchemas = Object.fromEntries(responseColumns.map(([name, { schema }]) => [name, schema])) as {
  readonly [Name in ResponseColumn]: Columns[Name]['schema'];
};
