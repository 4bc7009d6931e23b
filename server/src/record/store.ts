import { responseColumns, type BatchResult, type RecordRow, type SittingRow } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { UUID, type ClassKey } from '../db/keys';
import { classOrChild, type Which } from '../db/keys';
import { Child, ResponseEntity } from '../db/entities';

const COLUMNS = responseColumns.map(([name, { table }]) => `r.${table ?? name} as ${name}`).join(', ');

/**
 * Responses as rows of the record, each child named by id. `where` is a condition on `response r` that names the school, and may go on with an order. A year of a class
 * is read this way: plainly, without an entity for each row.
 * @param from what is called `r`, where it is not the whole table
 */
export async function recordRows(
  em: EntityManager,
  where: string,
  values: readonly unknown[],
  from = 'response',
): Promise<RecordRow[]> {
  const rows: (Omit<RecordRow, 'shown_at'> & { shown_at: string | Date })[] = await em.execute(
    `select ${COLUMNS} from ${from} r where ${where}`,
    [...values],
  );
  return rows.map((row) => Object.assign(row, { shown_at: new Date(row.shown_at).toISOString() }));
}

/**
 * Responses by their ids, in any class of the school. Each is looked up by its key: asked for as a set, they would be searched for in the whole class wherever
 * PostgreSQL has not counted the table yet, as in the middle of taking a file in.
 */
export async function recordsById(
  em: EntityManager,
  schoolId: string,
  ids: readonly string[],
): Promise<Map<string, { row: RecordRow; classId: string }>> {
  if (ids.length === 0) return new Map();
  const found: (RecordRow & { class_id: string })[] = await em.execute(
    `select ${COLUMNS}, r.class_id from json_array_elements_text(?) wanted(id)
     cross join lateral (select * from response where school_id = ? and id = wanted.id limit 1) r`,
    [JSON.stringify(ids), schoolId],
  );
  return new Map(
    found.map(({ class_id, ...row }) => [
      row.response_id,
      { row: { ...row, shown_at: new Date(row.shown_at).toISOString() }, classId: class_id },
    ]),
  );
}

/** All responses of a class or of one child, oldest first. */
export const recordOf = (em: EntityManager, which: Which): Promise<RecordRow[]> => {
  const { where, values } = classOrChild(which, 'r');
  return recordRows(em, `${where} order by r.shown_at, r.id`, values);
};

/** A row of the record as the table has it, its columns by name. */
const toColumns = (row: RecordRow, { schoolId, classId }: ClassKey, receivedAt: Date, importId: string | null) => ({
  ...Object.fromEntries(responseColumns.map(([name, { table }]) => [table ?? name, row[name]])),
  id: row.response_id,
  school_id: schoolId,
  class_id: classId,
  // Any offset and any fraction that a device may write; the table wants the moment.
  shown_at: new Date(row.shown_at).toISOString(),
  received_at: receivedAt,
  import_id: importId,
});

/** What is to be added to the record of a class. Children are named by id. */
export interface Sent {
  readonly key: ClassKey;
  readonly sittings: readonly SittingRow[];
  readonly responses: readonly RecordRow[];
}

/** Rows of one insert. */
const CHUNK = 500;

/** Columns by name, with and without the table's: what a newer Vane has added beside this one keeps its default. */
const named = (columns: readonly string[]): { into: string; from: string } => ({
  into: columns.join(', '),
  from: columns.map((one) => `r.${one}`).join(', '),
});
const OF_SITTING = named([
  'school_id',
  'id',
  'class_id',
  'routine',
  'started_at',
  'answer_mode',
  'settings',
  'import_id',
]);
const OF_RESPONSE = named([
  ...responseColumns.map(([name, { table }]) => table ?? name),
  ...['school_id', 'received_at', 'import_id'],
]);

/** In the order of their ids, so that of two servers that add the same rows neither waits for the other. */
const inOrder = <T extends { readonly id: string }>(rows: T[]): T[] =>
  rows.sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));

/** Adds sittings that are not there yet, of one class or of several. One that went with a deleted child is not brought back by a device that does not know. */
async function insertSittings(em: EntityManager, all: readonly Sent[], importId: string | null): Promise<void> {
  const rows = inOrder(
    all.flatMap(({ key, sittings }) =>
      sittings.map((s) => ({
        ...s,
        started_at: new Date(s.started_at).toISOString(),
        school_id: key.schoolId,
        class_id: key.classId,
        import_id: importId,
      })),
    ),
  );
  for (let i = 0; i < rows.length; i += CHUNK)
    await em.execute(
      `insert into sitting (${OF_SITTING.into}) select ${OF_SITTING.from} from json_populate_recordset(null::sitting, ?) r
       where r.import_id is not null or not exists (
         select 1 from erased e where e.school_id = r.school_id and e.what = 'sitting' and e.id = r.id)
       on conflict (school_id, id) do nothing`,
      [JSON.stringify(rows.slice(i, i + CHUNK))],
    );
}

const nameOf = (schoolId: string, childId: string, id: string): string => `${schoolId} ${childId} ${id}`;

/**
 * Adds responses, of one class or of several, and tells by name which were added. One statement per chunk checks, child by child and sitting by sitting by their keys, and adds. An answer whose
 * child is moved at this very moment goes into the child's new class: it was in the sender's when the statement began.
 */
async function insertResponses(
  em: EntityManager,
  all: readonly Sent[],
  now: Date,
  importId: string | null,
): Promise<Set<string>> {
  const rows = inOrder(
    all.flatMap(({ key, responses }) =>
      responses.filter((row) => UUID.test(row.child)).map((row) => toColumns(row, key, now, importId)),
    ),
  );
  const accepted = new Set<string>();
  for (let i = 0; i < rows.length; i += CHUNK) {
    const added: { school_id: string; child_id: string; id: string }[] = await em.execute(
      `insert into response (${OF_RESPONSE.into}, class_id) select ${OF_RESPONSE.from}, c.class_id from json_populate_recordset(null::response, ?) r
       cross join lateral (select class_id from child where school_id = r.school_id and id = r.child_id limit 1) was
       cross join lateral (select class_id from sitting where school_id = r.school_id and id = r.sitting_id limit 1) s
       cross join lateral (select class_id from child where school_id = r.school_id and id = r.child_id limit 1 for key share) c
       where was.class_id = r.class_id and s.class_id = r.class_id
       on conflict (school_id, id) do nothing returning school_id, child_id, id`,
      [JSON.stringify(rows.slice(i, i + CHUNK))],
    );
    for (const one of added) accepted.add(nameOf(one.school_id, one.child_id, one.id));
  }
  return accepted;
}

/** Why rows that were not added were not: there already, or not of this class. */
async function reasons(
  em: EntityManager,
  key: ClassKey,
  rows: readonly RecordRow[],
): Promise<(row: RecordRow) => string | null> {
  const there = await em.find(
    ResponseEntity,
    { schoolId: key.schoolId, id: { $in: rows.map((r) => r.response_id) } },
    { fields: ['id', 'classId'] },
  );
  const classOf = new Map(there.map((r) => [r.id, r.classId]));
  const children = new Set((await em.find(Child, { ...key }, { fields: ['id'] })).map((c) => c.id));
  return (row) => {
    const classId = classOf.get(row.response_id);
    if (classId !== undefined) return classId === key.classId ? null : 'another class has a response of this id';
    return children.has(row.child) ? 'its sitting is not in the class' : 'this child is not in the class';
  };
}

/** What became of each row that was sent. */
async function resultOf(em: EntityManager, { key, responses }: Sent, added: ReadonlySet<string>): Promise<BatchResult> {
  const wanted = [...new Map(responses.map((row) => [row.response_id, row])).values()];
  const isAdded = (row: RecordRow): boolean => added.has(nameOf(key.schoolId, row.child, row.response_id));
  const left = wanted.filter((row) => !isAdded(row));
  const refused: { id: string; reason: string }[] = [];
  const already: string[] = [];
  if (left.length > 0) {
    const why = await reasons(em, key, left);
    for (const row of left) {
      const reason = why(row);
      if (reason === null) already.push(row.response_id);
      else refused.push({ id: row.response_id, reason });
    }
    em.clear();
  }
  return { accepted: wanted.filter(isAdded).map((row) => row.response_id), already, refused };
}

/**
 * Adds sittings and responses to the record, each once however often it is sent. The first one stays: a second row under the same id changes nothing.
 * Rows that do not belong are refused by name; the others are kept. What several classes send at once is added together; only where something was not added is asked why.
 */
export async function addSent(
  em: EntityManager,
  all: readonly Sent[],
  now: Date,
  importId: string | null = null,
): Promise<BatchResult[]> {
  await insertSittings(em, all, importId);
  const added = await insertResponses(em, all, now, importId);
  const results: BatchResult[] = [];
  for (const sent of all) results.push(await resultOf(em, sent, added));
  return results;
}

/** The same for one class. */
export async function addToRecord(
  em: EntityManager,
  sent: Sent,
  now: Date,
  importId: string | null = null,
): Promise<BatchResult> {
  const [result] = await addSent(em, [sent], now, importId);
  return result!;
}

/** Pages through a class's responses in the order in which they were shown, without holding them all. */
export async function* responsesOf(em: EntityManager, key: ClassKey, pageSize = 2000): AsyncGenerator<RecordRow[]> {
  let after: RecordRow | undefined;
  for (;;) {
    const later = after === undefined ? '' : 'and (r.shown_at, r.id) > (?, ?)';
    const page = await recordRows(em, `r.school_id = ? and r.class_id = ? ${later} order by r.shown_at, r.id limit ?`, [
      key.schoolId,
      key.classId,
      ...(after === undefined ? [] : [after.shown_at, after.response_id]),
      pageSize,
    ]);
    if (page.length > 0) yield page;
    after = page[page.length - 1];
    if (page.length < pageSize) return;
  }
}
