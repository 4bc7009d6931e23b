import { csvCells, folded, type FileDates, type ImportSum, type RecordRow, type SittingRow } from '@vane/contract';
import type { Catalogue } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { distance } from 'fastest-levenshtein';
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import type { ClassKey } from '../db/keys';
import { Child } from '../db/entities';
import { momentsOf, NotAResponsesFile, readResponses } from './csv';
import { datesOf, momentReader, usualOrder } from './moments';
import { addToRecord, recordsById } from './store';

const BATCH = 500;
/** Lines listed by number; more are only counted. */
const LISTED = 200;
/** So many bad rows, and more than half of all, and it is no file of this class: to read on would only hold up everybody else. */
const TOO_MANY_BAD = 500;

interface Numbered {
  readonly line: number;
  readonly content: () => string;
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

/** All that a row says, as a short sum: a file may have half a million of them. */
const saidBy = (row: RecordRow): string =>
  createHash('sha1')
    .update(JSON.stringify(csvCells(row)))
    .digest('base64');

/** Columns in which a row of the file is not what Vane has. */
function otherwise(row: RecordRow, there: RecordRow): string[] {
  const [a, b] = [csvCells(row), csvCells(there)];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) =>
    name === 'shown_at' ? Date.parse(row.shown_at) !== Date.parse(there.shown_at) : (a[name] ?? '') !== (b[name] ?? ''),
  );
}

/** Which of these sittings are another class's. */
async function elsewhere(
  em: EntityManager,
  { schoolId, classId }: ClassKey,
  rows: readonly RecordRow[],
): Promise<Set<string>> {
  const sittings: { id: string }[] = await em.execute(
    `select s.id from json_array_elements_text(?) wanted(id)
     cross join lateral (select id, class_id from sitting where school_id = ? and id = wanted.id limit 1) s where s.class_id <> ?`,
    [JSON.stringify([...new Set(rows.map((r) => r.sitting))]), schoolId, classId],
  );
  return new Set(sittings.map(({ id }) => id));
}

/** What a file is read by. */
interface ImportWish {
  /** Opens the file, which may be read twice. */
  readonly open: () => Readable;
  readonly now: Date;
  /** Null = only look what the file would do. */
  readonly importId: string | null;
  readonly timeZone: string;
  readonly say: Pick<Catalogue, 'imports' | 'language'>;
  /** The order of dates, where somebody has said it. */
  readonly order?: FileDates['order'] | undefined;
  /** Whom a name of the file means: the nicknames of children. */
  readonly names?: ReadonlyMap<string, string>;
}

/**
 * Reads a responses file into a class as it streams in, batch by batch; or only looks what it would do. Children are found by nickname, and dates read in the order that suits all of them. Bad
 * rows are named and the rest is kept, unless most of them are bad; sending the same file again adds nothing. Run it in a transaction: a file that breaks off half way leaves nothing.
 * @throws NotAResponsesFile
 */
export async function importResponses(
  em: EntityManager,
  key: ClassKey,
  { open, now, importId, timeZone, say: { imports: say, language }, order, names = new Map() }: ImportWish,
): Promise<ImportSum> {
  const children = await em.find(Child, { ...key }, { fields: ['id', 'nickname'] });
  const idByName = new Map(children.map((c) => [folded(c.nickname), c.id]));
  const dates = await datesOf(momentsOf(open(), say), order ?? usualOrder(language), timeZone);
  const misspelt = new Map<string, readonly string[]>();
  /** The children whose names are one letter off. */
  const meantBy = (name: string): readonly string[] => {
    const known = misspelt.get(name);
    if (known) return known;
    const near = children.filter((c) => distance(folded(c.nickname), folded(name)) === 1).map((c) => c.nickname);
    if (misspelt.size < LISTED) misspelt.set(name, near);
    return near;
  };
  const lines: ImportSum['lines'][number][] = [];
  const sum = { read: 0, fresh: 0, same: 0, changed: 0, refused: 0 };
  /** By id: its line, and what it said. */
  const seen = new Map<string, { readonly line: number; readonly said: string }>();
  const tell = (
    { line, content }: Pick<Numbered, 'line' | 'content'>,
    state: 'changed' | 'refused',
    reason: string,
  ): void => {
    sum[state]++;
    if (sum.refused >= TOO_MANY_BAD && 2 * sum.refused > sum.read)
      throw new NotAResponsesFile(say.mostlyBad(sum.refused, sum.read, line, reason));
    if (lines.length < LISTED) lines.push({ line, state, reason, content: content() });
  };
  let batch: Numbered[] = [];
  const flush = async (): Promise<void> => {
    const rows = batch.map((b) => b.row);
    const foreign = await elsewhere(em, key, rows);
    const own = rows.filter((row) => !foreign.has(row.sitting));
    // Added at once where they may be: only what was not is asked for.
    const added = new Set<string>();
    if (importId !== null && own.length > 0) {
      const sent = { key, sittings: sittingsOf(own), responses: own };
      for (const id of (await addToRecord(em, sent, now, importId)).accepted) added.add(id);
    }
    const there = await recordsById(
      em,
      key.schoolId,
      rows.map((row) => row.response_id).filter((id) => !added.has(id)),
    );
    for (const one of batch) {
      const { row } = one;
      const found = there.get(row.response_id);
      if (found && found.classId !== key.classId) tell(one, 'refused', say.otherClassAnswer);
      else if (found) {
        const columns = otherwise(row, found.row);
        if (columns.length === 0) sum.same++;
        else tell(one, 'changed', say.different(columns));
      } else if (foreign.has(row.sitting)) tell(one, 'refused', say.otherClassSession);
      else sum.fresh++;
    }
    batch = [];
  };
  const momentOf = dates ? momentReader(dates.order, timeZone) : undefined;
  for await (const read of readResponses(open(), say, momentOf)) {
    sum.read++;
    if ('reason' in read) {
      tell(read, 'refused', read.reason);
      continue;
    }
    const { child } = read.row;
    const childId = idByName.get(folded(child)) ?? idByName.get(folded(names.get(child) ?? ''));
    if (childId === undefined) {
      tell(read, 'refused', say.noChild(child, meantBy(child)));
      continue;
    }
    // The first of several rows under one id counts; another that says something else is lost to nobody without a word.
    const said = saidBy(read.row);
    const first = seen.get(read.row.response_id);
    if (first !== undefined) {
      if (first.said === said) sum.same++;
      else tell(read, 'refused', say.sameId(first.line));
      continue;
    }
    seen.set(read.row.response_id, { line: read.line, said });
    batch.push({ line: read.line, content: read.content, row: { ...read.row, child: childId } });
    if (batch.length >= BATCH) await flush();
  }
  if (batch.length > 0) await flush();
  return {
    ...sum,
    lines: lines.sort((a, b) => a.line - b.line),
    names: [],
    dates: dates && { ...dates, unsure: dates.unsure && order === undefined },
    misspelt: [...misspelt].flatMap(([name, [meant, another]]) =>
      meant !== undefined && another === undefined ? [{ name, meant }] : [],
    ),
  };
}
