import type { ImportResult, RecordRow, SittingRow } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Readable } from 'node:stream';
import type { ClassKey } from '../classes/children';
import { Child } from '../db/entities';
import { readResponses } from './csv';
import { addResponses, addSittings } from './store';

const BATCH = 500;
/** Bad rows listed by line; more are only counted. */
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

/**
 * Reads a responses file into a class as it streams in, batch by batch. Children are found by nickname. Bad rows are named and the rest is kept; sending the same
 * file again adds nothing. @throws NotAResponsesFile
 */
export async function importResponses(em: EntityManager, key: ClassKey, source: Readable, now: () => Date): Promise<ImportResult> {
  const children = await em.find(Child, { ...key }, { fields: ['id', 'nickname'] });
  const idByName = new Map(children.map((c) => [c.nickname.toLowerCase(), c.id]));
  const bad: { line: number; reason: string }[] = [];
  const sum = { read: 0, added: 0, already: 0, badCount: 0 };
  const refuse = (line: number, reason: string): void => {
    sum.badCount++;
    if (bad.length < LISTED) bad.push({ line, reason });
  };
  let batch: Numbered[] = [];
  const flush = async (): Promise<void> => {
    const rows = batch.map((b) => b.row);
    await addSittings(em, key, sittingsOf(rows));
    const result = await addResponses(em, key, rows, now());
    sum.added += result.accepted.length;
    sum.already += result.already.length + rows.length - new Set(rows.map((r) => r.response_id)).size;
    for (const { id, reason } of result.refused) refuse(batch.find((b) => b.row.response_id === id)?.line ?? 0, reason);
    batch = [];
  };
  for await (const read of readResponses(source)) {
    sum.read++;
    if ('reason' in read) {
      refuse(read.line, read.reason);
      continue;
    }
    const childId = idByName.get(read.row.child.toLowerCase());
    if (childId === undefined) {
      refuse(read.line, `child: there is no "${read.row.child}" in this class`);
      continue;
    }
    batch.push({ line: read.line, row: { ...read.row, child: childId } });
    if (batch.length >= BATCH) await flush();
  }
  if (batch.length > 0) await flush();
  return { ...sum, bad: bad.sort((a, b) => a.line - b.line) };
}
