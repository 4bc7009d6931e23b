import { guarded, readingCells, READING_COLUMNS, toStatement, type RecordRow } from '@vane/contract';
import { stringify } from 'csv-stringify/sync';
import { Hono, type Context } from 'hono';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { audit } from '../request/audit';
import { uuidOr404 } from '../request/ids';
import type { Deps, Env } from '../request/context';
import { SchoolClass } from '../db/entities';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';
import { NotAResponsesFile } from '../record/csv';
import { download, nicknames } from '../record/recordRoutes';
import { importResponses } from '../record/importFile';
import { responsesOf } from '../record/store';
import { addArchive, archiveOf, readArchive } from './archive';
import { importsOf, takeBack, takeIn } from './imports';
import { addRoster, schoolRoster } from './roster';
import { statementId } from '../outside/statementIds';
import type { Uploads } from './uploads';

/** A year of a class is about 25 MB of CSV, and twice that as an archive. */
const LARGEST_FILE = 96 * 1024 * 1024;
const LARGEST_ROSTER = 8 * 1024 * 1024;
/** Statements handed over at a time. */
const STATEMENTS = 200;

const wants = (c: Context<Env>): boolean => c.req.query('write') === 'yes';
const fileName = (text: string): string => text.replace(/[^\p{L}\p{N}]+/gu, '-');
const streamed = (parts: AsyncGenerator<string>): ReadableStream => {
  async function* bytes(): AsyncGenerator<Uint8Array> {
    for await (const part of parts) yield Buffer.from(part);
  }
  return Readable.toWeb(Readable.from(bytes())) as unknown as ReadableStream;
};

/** A class's files, out and in. A file is looked at first (`write=yes` takes it in), and what was taken in can be taken back. */
export function fileRoutes(deps: Deps, readings: Readings, uploads: Uploads): Hono<Env> {
  const statementsOf = (rows: readonly RecordRow[], schoolId: string) =>
    rows.map((row) => toStatement(row, statementId(schoolId, row.response_id), deps.publicUrl));
  const key = (c: Context<Env>) => ({ schoolId: c.var.schoolId, classId: c.var.classId });
  const named = async (c: Context<Env>): Promise<string> =>
    (await c.var.em.findOneOrFail(SchoolClass, { schoolId: c.var.schoolId, id: c.var.classId })).name;

  return new Hono<Env>()
    .get('/readings.csv', async (c) => {
      const names = await nicknames(c.var.em, key(c));
      const current = await readings.current(key(c));
      const rows = current.readings.map((r) => {
        const cells = readingCells({ ...r, child: names.get(r.child) ?? r.child });
        return READING_COLUMNS.map((column) => (column === 'lean' ? cells[column] : guarded(cells[column])));
      });
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the readings of ${await named(c)}`);
      return c.body(
        stringify([[...READING_COLUMNS], ...rows]),
        200,
        download(`${fileName(await named(c))}-readings.csv`, 'text/csv; charset=utf-8'),
      );
    })
    .get('/archive.json', async (c) => {
      const archive = await archiveOf(c.var.em, key(c));
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the class ${archive.class.name}`);
      return c.body(
        JSON.stringify(archive, null, 1),
        200,
        download(`${fileName(archive.class.name)}.vane.json`, 'application/json'),
      );
    })
    .get('/statements/:form{json|jsonl}', async (c) => {
      const { form } = c.req.param();
      const name = fileName(await named(c));
      const em = deps.orm.em.fork();
      const [schoolKey, asLines] = [key(c), form === 'jsonl'];
      await audit(em, c.var.adult, deps.now(), 'exported', `the statements of ${name}`);
      async function* parts(): AsyncGenerator<string> {
        let before = asLines ? '' : '[';
        for await (const page of responsesOf(em, schoolKey)) {
          for (const one of statementsOf(page, schoolKey.schoolId)) {
            yield before + JSON.stringify(one);
            before = asLines ? '\n' : ',\n';
          }
        }
        yield asLines ? '\n' : before === '[' ? '[]' : ']';
      }
      return c.body(
        streamed(parts()),
        200,
        download(`${name}-statements.${form}`, asLines ? 'application/jsonl' : 'application/json'),
      );
    })
    .post('/statements', async (c) => {
      const sum = { sent: 0, fresh: 0 };
      let all: boolean | null = true;
      for await (const page of responsesOf(deps.orm.em.fork(), key(c), STATEMENTS)) {
        let fresh: number | null;
        try {
          fresh = await deps.recordStore.send(statementsOf(page, c.var.schoolId));
        } catch (error) {
          throw new RequestProblem('no-record-store', {
            detail: error instanceof Error ? error.message : String(error),
          });
        }
        sum.sent += page.length;
        if (fresh === null) all = null;
        else sum.fresh += fresh;
      }
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `${sum.sent} statements to ${deps.recordStore.name}`);
      return c.json({
        sent: sum.sent,
        fresh: all === null ? null : sum.fresh,
        to: deps.recordStore.name,
        simulated: deps.recordStore.simulated,
      });
    })
    .post('/import', async (c) => {
      const [write, now] = [wants(c), deps.now()];
      const wish = { write, what: 'responses', classId: c.var.classId, now };
      try {
        const result = await uploads.take(c.var.adult.id, c.req.raw, LARGEST_FILE, (file) =>
          takeIn(c.var.em, c.var.adult, wish, (em, importId) =>
            importResponses(em, key(c), createReadStream(file), { now, importId: write ? importId : null }),
          ),
        );
        if (result.imported !== null) readings.refreshSoon(key(c));
        return c.json(result);
      } catch (error) {
        if (error instanceof NotAResponsesFile) throw new RequestProblem('not-a-responses-file', { detail: error.why });
        throw error;
      }
    })
    .get('/imports', async (c) => c.json(await importsOf(c.var.em, c.var.schoolId, c.var.classId)))
    .delete('/imports/:id', async (c) => {
      const gone = await takeBack(c.var.em, c.var.adult, uuidOr404(c.req.param('id')), c.var.classId, deps.now());
      readings.refreshSoon(key(c));
      return c.json({ responses: gone });
    });
}

/** The school's files, for its lead: rosters, and classes as archives. */
export function schoolFileRoutes(deps: Deps, uploads: Uploads): Hono<Env> {
  const whole = (c: Context<Env>, largest: number): Promise<Buffer> =>
    uploads.take(c.var.adult.id, c.req.raw, largest, (file) => readFile(file));
  return new Hono<Env>()
    .get('/roster.zip', async (c) => {
      const zip = await schoolRoster(c.var.em, c.var.schoolId, deps.now());
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', 'the roster');
      return c.body(zip as Uint8Array<ArrayBuffer>, 200, download('roster.zip', 'application/zip'));
    })
    .post('/roster', async (c) => {
      const read = await deps.readRoster(new Uint8Array(await whole(c, LARGEST_ROSTER)));
      if ('refused' in read) throw new RequestProblem('not-a-roster', { detail: read.refused });
      const now = deps.now();
      return c.json(
        await takeIn(c.var.em, c.var.adult, { write: wants(c), what: 'a roster', classId: null, now }, (em, importId) =>
          addRoster(em, c.var.adult, read.classes, { now, importId }),
        ),
      );
    })
    .get('/roster-service', async (c) => {
      let zip: Uint8Array;
      try {
        zip = await deps.rosterService.fetch();
      } catch (error) {
        throw new RequestProblem('no-roster-service', {
          detail: error instanceof Error ? error.message : String(error),
        });
      }
      return c.body(zip as Uint8Array<ArrayBuffer>, 200, download('roster.zip', 'application/zip'));
    })
    .post('/archive', async (c) => {
      const archive = readArchive((await whole(c, LARGEST_FILE)).toString('utf8'));
      const now = deps.now();
      return c.json(
        await takeIn(
          c.var.em,
          c.var.adult,
          { write: wants(c), what: `the class ${archive.class.name}`, classId: null, now },
          (em, importId) => addArchive(em, c.var.adult, archive, { now, importId }),
        ),
      );
    })
    .get('/imports', async (c) => c.json(await importsOf(c.var.em, c.var.schoolId, null)))
    .delete('/imports/:id', async (c) =>
      c.json({ responses: await takeBack(c.var.em, c.var.adult, uuidOr404(c.req.param('id')), null, deps.now()) }),
    );
}
