import {
  guarded,
  ownViewCells,
  readingCells,
  READING_COLUMNS,
  ROUTES,
  toStatement,
  type RecordRow,
} from '@vane/contract';
import { stringify } from 'csv-stringify/sync';
import type { Context } from 'hono';
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { audit } from '../request/audit';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { supportReadBy } from '../classes/support';
import { SchoolClass } from '../db/entities';
import { timeZoneOf } from '../db/timeZone';
import { sayFor } from '../words/sayFor';
import { standingOverrules } from '../judging/overruleRoutes';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';
import { NotAResponsesFile } from '../record/csv';
import { download, nicknames } from '../record/recordRoutes';
import { importResponses } from '../record/importFile';
import { responsesOf } from '../record/store';
import { addArchive, archiveOf } from './archive';
import { importsOf, takeBack, takeIn } from './imports';
import { addRoster, schoolRoster } from './roster';
import { statementId } from '../outside/statementIds';
import type { Uploads } from './uploads';

/** A file of rows is read in small pieces, bytes: each is parsed at once, and rows may be three bytes long. */
const PIECE = 2048;
/** Statements handed over at a time. */
const STATEMENTS = 200;

const fileName = (text: string): string => text.replace(/[^\p{L}\p{N}]+/gu, '-');
const streamed = (parts: AsyncGenerator<string>): ReadableStream => {
  async function* bytes(): AsyncGenerator<Uint8Array> {
    for await (const part of parts) yield Buffer.from(part);
  }
  return Readable.toWeb(Readable.from(bytes())) as unknown as ReadableStream;
};

/** A class's files, out and in. A file is looked at first (`write=yes` takes it in), and what was taken in can be taken back. */
export function fileRoutes(deps: Deps, readings: Readings, uploads: Uploads): ContractRoutes {
  const statementsOf = (rows: readonly RecordRow[], schoolId: string) =>
    rows.map((row) => toStatement(row, statementId(schoolId, row.response_id), deps.publicUrl));
  const named = async (c: Context<Env>): Promise<string> =>
    (await c.var.em.findOneOrFail(SchoolClass, { schoolId: c.var.schoolId, id: c.var.classKey.classId })).name;

  return new ContractRoutes()
    .on('GET /classes/:classId/readings.csv', async (c) => {
      const names = await nicknames(c.var.em, c.var.classKey);
      const current = await readings.current(c.var.classKey);
      const own = await standingOverrules(c.var.em, c.var.classKey);
      const cells = current.readings.map((r) => {
        const key = `${r.child} ${r.fact}`;
        const view = own.get(key) ?? null;
        own.delete(key);
        return readingCells({ ...r, child: names.get(r.child) ?? r.child }, view);
      });
      // What a teacher has said of a fact that Vane has no view of.
      const alone = [...own.values()].map(({ childId, fact, reading, reason }) =>
        ownViewCells(names.get(childId) ?? childId, fact, { reading, reason }),
      );
      const rows = [...cells, ...alone].map((one) =>
        READING_COLUMNS.map((column) => (column === 'lean' ? one[column] : guarded(one[column]))),
      );
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the readings of ${await named(c)}`);
      return c.body(
        stringify([[...READING_COLUMNS], ...rows]),
        200,
        download(`${fileName(await named(c))}-readings.csv`, 'text/csv; charset=utf-8'),
      );
    })
    .on('GET /classes/:classId/archive.json', async (c) => {
      const archive = await archiveOf(await deps.database.readers.em(), c.var.classKey);
      await supportReadBy(c.var.em, c.var.classKey, c.var.adult, deps.now());
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the class ${archive.class.name}`);
      return c.body(
        JSON.stringify(archive, null, 1),
        200,
        download(`${fileName(archive.class.name)}.vane.json`, 'application/json'),
      );
    })
    .on('GET /classes/:classId/statements/:form{json|jsonl}', async (c, { form }) => {
      const name = fileName(await named(c));
      const em = await deps.database.readers.em();
      const [schoolKey, asLines] = [c.var.classKey, form === 'jsonl'];
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the statements of ${name}`);
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
    .on('POST /classes/:classId/statements', async (c) => {
      const sum = { sent: 0, fresh: 0 };
      let all: boolean | null = true;
      for await (const page of responsesOf(deps.database.orm.em.fork(), c.var.classKey, STATEMENTS)) {
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
      return {
        sent: sum.sent,
        fresh: all === null ? null : sum.fresh,
        to: deps.recordStore.name,
        simulated: deps.recordStore.simulated,
      };
    })
    .on('POST /classes/:classId/import', async (c, { query }) => {
      const [write, now] = [query.write === 'yes', deps.now()];
      const wish = { write, what: 'responses', classId: c.var.classKey.classId, now };
      const timeZone = await timeZoneOf(c.var.em, c.var.schoolId);
      const reading = {
        now,
        timeZone,
        say: sayFor(c),
        order: query.order,
        names: new Map(Object.entries(query.names ?? {})),
      };
      try {
        const result = await uploads.take(
          c.var.adult.id,
          c.req.raw,
          ROUTES['POST /classes/:classId/import'].file.largest,
          (file) =>
            takeIn(c.var.em, c.var.adult, wish, (em, importId) =>
              importResponses(em, c.var.classKey, {
                ...reading,
                open: () => createReadStream(file, { highWaterMark: PIECE }),
                importId: write ? importId : null,
              }),
            ),
        );
        if (result.imported !== null) readings.refreshSoon(c.var.classKey);
        return result;
      } catch (error) {
        if (error instanceof NotAResponsesFile) throw new RequestProblem('not-a-responses-file', { detail: error.why });
        throw error;
      }
    })
    .on('GET /classes/:classId/imports', (c) => importsOf(c.var.em, c.var.schoolId, c.var.classKey.classId))
    .on('DELETE /classes/:classId/imports/:id', async (c, { id }) => {
      const taken = await takeBack(c.var.em, c.var.adult, id, c.var.classKey.classId, deps.now());
      readings.refreshSoon(c.var.classKey);
      return taken;
    });
}

/** The school's files, for its lead: rosters, and classes as archives. */
export function schoolFileRoutes(deps: Deps, uploads: Uploads): ContractRoutes {
  const taken = <T>(
    c: Context<Env>,
    { file: { largest } }: { readonly file: { readonly largest: number } },
    read: (file: string) => Promise<T>,
  ): Promise<T> => uploads.take(c.var.adult.id, c.req.raw, largest, read);
  return new ContractRoutes()
    .on('GET /school/roster.zip', async (c) => {
      const zip = await schoolRoster(c.var.em, c.var.schoolId, deps.now());
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', 'the roster');
      return c.body(zip as Uint8Array<ArrayBuffer>, 200, download('roster.zip', 'application/zip'));
    })
    .on('POST /school/roster', async (c, { query }) => {
      const read = await taken(c, ROUTES['POST /school/roster'], deps.readRoster);
      if ('refused' in read) throw new RequestProblem('not-a-roster', { detail: read.refused });
      const now = deps.now();
      return takeIn(
        c.var.em,
        c.var.adult,
        { write: query.write === 'yes', what: 'a roster', classId: null, now },
        (em, importId) => addRoster(em, c.var.adult, read.classes, { now, importId }),
      );
    })
    .on('GET /school/roster-service', async (c) => {
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
    .on('POST /school/archive', async (c, { query }) => {
      const read = await taken(c, ROUTES['POST /school/archive'], deps.readArchive);
      if ('refused' in read) throw new RequestProblem('not-an-archive', read.refused);
      const now = deps.now();
      return takeIn(
        c.var.em,
        c.var.adult,
        { write: query.write === 'yes', what: `the class ${read.archive.class.name}`, classId: null, now },
        (em, importId) => addArchive(em, c.var.adult, read, { now, importId }),
      );
    })
    .on('GET /school/imports', (c) => importsOf(c.var.em, c.var.schoolId, null))
    .on('DELETE /school/imports/:id', (c, { id }) => takeBack(c.var.em, c.var.adult, id, null, deps.now()));
}
