import { correctionRequest, logQuery, recordBatch, toResponse } from '@vane/contract';
import { observedText } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { Readable } from 'node:stream';
import { jsonBody, type Deps, type Env } from '../context';
import { Child, SchoolClass } from '../db/entities';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problem';
import { headerLine, NotAResponsesFile, responseLines } from './csv';
import { correct } from './corrections';
import { importResponses } from './import';
import { logPage } from './log';
import { addResponses, addSittings, responsesOf } from './store';

/** A year of a class is about 25 MB of CSV. */
const LARGEST_IMPORT = 64 * 1024 * 1024;
const LARGEST_BATCH = 4 * 1024 * 1024;

const tooLarge = (): never => {
  throw new RequestProblem('too-large');
};

const nicknames = async (em: EntityManager, key: { schoolId: string; classId: string }): Promise<Map<string, string>> =>
  new Map((await em.find(Child, { ...key }, { fields: ['id', 'nickname'] })).map((c) => [c.id, c.nickname]));

/** The record of a class: batches from devices, the log, and the responses file out and in. */
export function recordRoutes(deps: Deps, readings: Readings): Hono<Env> {
  return new Hono<Env>()
    .post('/record', bodyLimit({ maxSize: LARGEST_BATCH, onError: tooLarge }), jsonBody(recordBatch), async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const { sittings, responses } = c.req.valid('json');
      const rows = responses.map((row) => ({ ...row, observed: observedText(toResponse(row)) }));
      const result = await c.var.em.transactional(async (em) => {
        await addSittings(em, key, sittings);
        return addResponses(em, key, rows, deps.now());
      });
      if (result.accepted.length > 0) readings.refreshSoon(key);
      return c.json(result);
    })
    .get('/log', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const query = logQuery.safeParse(c.req.query());
      if (!query.success) throw new RequestProblem('bad-body', { places: query.error.issues.map((i) => ({ place: i.path.join('.'), reason: i.message })) });
      return c.json(await logPage(c.var.em, key, query.data));
    })
    .post('/corrections', jsonBody(correctionRequest), async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const changed = await c.var.em.transactional((em) => correct(em, key, c.var.adult, c.req.valid('json'), deps.now()));
      if (changed > 0) readings.refreshSoon(key);
      return c.json({ changed });
    })
    .get('/responses.csv', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const em = deps.orm.em.fork();
      const names = await nicknames(em, key);
      const { name } = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
      const extra: { name: string }[] = await em.execute(
        'select distinct jsonb_object_keys(extra) as name from response where school_id = ? and class_id = ? order by 1',
        [key.schoolId, key.classId],
      );
      const extraNames = extra.map((e) => e.name);
      async function* lines(): AsyncGenerator<Uint8Array> {
        yield Buffer.from(headerLine(extraNames));
        for await (const page of responsesOf(em, key)) {
          yield Buffer.from(
            responseLines(
              page.map((row) => ({ ...row, child: names.get(row.child) ?? row.child })),
              extraNames,
            ),
          );
        }
      }
      const file = `${name.replace(/[^\p{L}\p{N}]+/gu, '-')}-responses.csv`;
      return c.body(Readable.toWeb(Readable.from(lines())) as unknown as ReadableStream, 200, {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file)}`,
      });
    })
    .post('/import', bodyLimit({ maxSize: LARGEST_IMPORT, onError: tooLarge }), async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const body = c.req.raw.body;
      if (body === null) throw new RequestProblem('not-a-responses-file', { detail: 'the file is empty' });
      try {
        const result = await importResponses(c.var.em, key, Readable.fromWeb(body), deps.now);
        if (result.added > 0) readings.refreshSoon(key);
        return c.json(result);
      } catch (error) {
        if (error instanceof NotAResponsesFile) throw new RequestProblem('not-a-responses-file', { detail: error.why });
        throw error;
      }
    });
}
