import { toResponse, type BatchResult } from '@vane/contract';
import { observedText, type Reading } from '@vane/core';
import { Batched } from '../db/batched';
import type { ClassKey, Which } from '../db/keys';
import type { EntityManager } from '@mikro-orm/postgresql';
import { Readable } from 'node:stream';
import { audit } from '../request/audit';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { Child, SchoolClass } from '../db/entities';
import { childFile } from './childExport';
import { headerLine, responseLines } from './csv';
import { correct } from './corrections';
import { withRightClock } from './deviceClock';
import { logPage } from './log';
import { addSent, responsesOf, type Sent } from './store';

/** Headers of an answer that a browser saves as a file. */
export const download = (file: string, type: string) => ({
  'content-type': type,
  'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file)}`,
});

/** Nicknames by child. */
export const nicknames = async (
  em: EntityManager,
  key: { schoolId: string; classId: string },
): Promise<Map<string, string>> =>
  new Map((await em.find(Child, { ...key }, { fields: ['id', 'nickname'] })).map((c) => [c.id, c.nickname]));

/** Requests whose answers are taken in together at most, and how many such inserts may be under way: one that waits for a child who is just being deleted must not hold up other classes. */
const MOST_AT_ONCE = 50;
const LANES = 4;

/** What the record asks of the judging that stands on it. */
interface Judged {
  /** Answers were added or changed: the class is judged again soon. */
  refreshSoon(key: ClassKey): void;
  current(which: Which): Promise<{ readonly readings: readonly Reading[] }>;
}

/** The record of a class: batches from devices, the log, and the responses file out and in. */
export function recordRoutes(deps: Deps, readings: Judged): ContractRoutes {
  // Answers of many classes at once are taken in together. All that is sent may be sent again, so it need not happen in one step.
  const { orm, readers } = deps.database;
  const intake = new Batched<Sent, BatchResult>((all) => addSent(orm.em.fork(), all, deps.now()), MOST_AT_ONCE, LANES);
  return new ContractRoutes()
    .on('POST /classes/:classId/record', async (c, { body }) => {
      const key = c.var.classKey;
      const { sittings, responses } = withRightClock(body, deps.now());
      const rows = responses.map((row) => ({ ...row, observed: observedText(toResponse(row)) }));
      const result = await intake.ask({ key, sittings, responses: rows });
      if (result.accepted.length > 0) readings.refreshSoon(key);
      return result;
    })
    .on('GET /classes/:classId/log', async (c, { query }) => {
      const key = c.var.classKey;
      return logPage(await readers.em(), key, query);
    })
    .on('POST /classes/:classId/corrections', async (c, { body: wish }) => {
      const key = c.var.classKey;
      const changed = await c.var.em.transactional(async (em) => {
        const count = await correct(em, key, c.var.adult, wish, deps.now());
        const detail = `${count} responses: ${wish.change.what}`;
        if (count > 0) await audit(em, c.var.adult, deps.now(), 'corrected', detail);
        return count;
      });
      if (changed > 0) readings.refreshSoon(key);
      return { changed };
    })
    .on('GET /classes/:classId/responses.csv', async (c) => {
      const key = c.var.classKey;
      const em = await readers.em();
      const names = await nicknames(em, key);
      const { name } = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
      const extra: { name: string }[] = await em.execute(
        'select distinct jsonb_object_keys(extra) as name from response where school_id = ? and class_id = ? order by 1',
        [key.schoolId, key.classId],
      );
      const extraNames = extra.map((e) => e.name);
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', `the responses of ${name}`);
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
      return c.body(
        Readable.toWeb(Readable.from(lines())) as unknown as ReadableStream,
        200,
        download(file, 'text/csv; charset=utf-8'),
      );
    })
    .on('GET /classes/:classId/children/:childId/record.json', async (c, { childId }) => {
      const key = c.var.classKey;
      const file = await childFile(
        await readers.em(),
        key,
        childId,
        (await readings.current({ ...key, childId })).readings,
        deps.now(),
      );
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', 'one child’s record', childId);
      return c.body(JSON.stringify(file, null, 1), 200, download(`${file.child}.json`, 'application/json'));
    })
    .on('GET /classes/:classId/children/:childId/responses.csv', async (c, { childId }) => {
      const key = c.var.classKey;
      const { responses, child } = await childFile(await readers.em(), key, childId, [], deps.now());
      const extraNames = [...new Set(responses.flatMap((r) => Object.keys(r.extra)))].sort();
      await audit(c.var.em, c.var.adult, deps.now(), 'exported', 'one child’s responses', childId);
      return c.body(
        headerLine(extraNames) + responseLines(responses, extraNames),
        200,
        download(`${child}-responses.csv`, 'text/csv; charset=utf-8'),
      );
    });
}
