import { csvCells, type ImportResult, type RecordRow, type SittingRow } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Readable } from 'node:stream';
import type { ClassKey } from '../classes/children';
import { Child } from '../db/entities';
import { readResponses } from './csv';
import { addResponses, addSittings, recordRows } from './store';

const BATCH = 500;
/** Lines listed by number; more are only counted. */
const LISTED = 200;

interface Numbered {
  readonly line: number;
  readonly row: RecordRow;
}

/** A sitting for rows whose file names one that Vane has not seen: it began with its first row. */
function sittingsOf(rows: readonly RecordRow[]): SittingRow[] {
  const first = new Map<string, RecordRow>();
  for (const row of rows) {
    const known = first.get(row.sitting);
    if (!known || row.shown_at < known.shown_at) first.set(row.sitting, row);
  }
  return [...first.values()].map((row) => ({
    id: row.sitting,
    routine: 'imported',
    started_at: row.shown_at,
    answer_mode: row.answer_mode,
    settings: null,
  }));
}

/** Columns in which a row of the file is not what Vane has. */
function otherwise(row: RecordRow, there: RecordRow): string[] {
  const [a, b] = [csvCells(row), csvCells(there)];
  return Object.keys({ ...a, ...b }).filter((name) =>
    name === 'shown_at' ? Date.parse(row.shown_at) !== Date.parse(there.shown_at) : (a[name] ?? '') !== (b[name] ?? ''),
  );
}

/** What there is already under the ids of these rows, in the whole school, and which of their sittings are another class's. */
async function whatIsThere(em: EntityManager, { schoolId, classId }: ClassKey, rows: readonly RecordRow[]) {
  const ids = JSON.stringify(rows.map((r) => r.response_id));
  const own = await recordRows(em, 'r.school_id = ? and r.class_id = ? and r.id in (select json_array_elements_text(?))', [schoolId, classId, ids]);
  const elsewhere: { id: string }[] = await em.execute(
    'select id from response where school_id = ? and class_id <> ? and id in (select json_array_elements_text(?))',
    [schoolId, classId, ids],
  );
  const sittings: { id: string }[] = await em.execute(
    'select id from sitting where school_id = ? and class_id <> ? and id in (select json_array_elements_text(?))',
    [schoolId, classId, JSON.stringify([...new Set(rows.map((r) => r.sitting))])],
  );
  return {
    own: new Map(own.map((row) => [row.response_id, row])),
    elsewhere: new Set(elsewhere.map(({ id }) => id)),
    sittingsElsewhere: new Set(sittings.map(({ id }) => id)),
  };
}

/**
 * Reads a responses file into a class as it streams in, batch by batch; or, with `importId` null, only looks what it would do. Children are found by nickname. Bad
 * rows are named and the rest is kept; sending the same file again adds nothing. Run it in a transaction: a file that breaks off half way leaves nothing.
 * @throws NotAResponsesFile
 */
export async function importResponses(
  em: EntityManager,
  key: ClassKey,
  source: Readable,
  { now, importId }: { readonly now: Date; readonly importId: string | null },
): Promise<ImportResult> {
  const children = await em.find(Child, { ...key }, { fields: ['id', 'nickname'] });
  const idByName = new Map(children.map((c) => [c.nickname.toLowerCase(), c.id]));
  const lines: { line: number; state: 'changed' | 'refused'; reason: string }[] = [];
  const sum = { read: 0, fresh: 0, same: 0, changed: 0, refused: 0 };
  const seen = new Set<string>();
  const tell = (line: number, state: 'changed' | 'refused', reason: string): void => {
    sum[state]++;
    if (lines.length < LISTED) lines.push({ line, state, reason });
  };
  let batch: Numbered[] = [];
  const flush = async (): Promise<void> => {
    const { own, elsewhere, sittingsElsewhere } = await whatIsThere(
      em,
      key,
      batch.map((b) => b.row),
    );
    const fresh: RecordRow[] = [];
    for (const { line, row } of batch) {
      const there = own.get(row.response_id);
      if (elsewhere.has(row.response_id)) tell(line, 'refused', 'response_id: another class has a response of this id');
      else if (there) {
        const columns = otherwise(row, there);
        if (columns.length === 0) sum.same++;
        else tell(line, 'changed', `${columns.join(', ')}: Vane has it otherwise, and keeps it`);
      } else if (seen.has(row.response_id)) sum.same++;
      else if (sittingsElsewhere.has(row.sitting)) tell(line, 'refused', 'sitting: it belongs to another class');
      else {
        seen.add(row.response_id);
        fresh.push(row);
      }
    }
    sum.fresh += fresh.length;
    if (importId !== null && fresh.length > 0) {
      await addSittings(em, key, sittingsOf(fresh), importId);
      await addResponses(em, key, fresh, now, importId);
    }
    batch = [];
  };
  for await (const read of readResponses(source)) {
    sum.read++;
    if ('reason' in read) {
      tell(read.line, 'refused', read.reason);
      continue;
    }
    const childId = idByName.get(read.row.child.toLowerCase());
    if (childId === undefined) {
      tell(read.line, 'refused', `child: there is no "${read.row.child}" in this class`);
      continue;
    }
    batch.push({ line: read.line, row: { ...read.row, child: childId } });
    if (batch.length >= BATCH) await flush();
  }
  if (batch.length > 0) await flush();
  return { ...sum, lines: lines.sort((a, b) => a.line - b.line), names: [], importId: sum.fresh > 0 ? importId : null };
}
