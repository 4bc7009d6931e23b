import { carpetSettings, classArchive, storable, type ClassArchive, type ImportSum } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { taken, demandRoom } from '../classes/children';
import { supportFile } from '../classes/support';
import { type ClassKey } from '../db/keys';
import type { Env } from '../request/context';
import { giveClass } from '../adults/rights';
import { Child, Correction, Note, Overrule, SchoolClass, Setting, Sitting } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import type { Correctable } from '../db/entities';
import type { ArchiveRead, OpenedArchive } from '../threads/archiveRead';
import { addToRecord, recordOf } from '../record/store';

const iso = (at: Date): string => at.toISOString();

/** The whole class as a file, in an order that does not depend on the database. */
export async function archiveOf(em: EntityManager, key: ClassKey): Promise<ClassArchive> {
  const found = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
  const settings = new Map((await em.find(Setting, key)).map((s) => [s.name, s.value]));
  const children = await em.find(Child, key, { orderBy: { nickname: 'asc' } });
  const names = new Map(children.map((c) => [c.id, c.nickname]));
  const named = (id: string): string => names.get(id) ?? 'a child of another class';
  const part = ({ childId, ...rest }: Correctable) => ({ child: named(childId), ...rest });
  const sittings = await em.find(Sitting, key, { orderBy: { startedAt: 'asc', id: 'asc' }, disableIdentityMap: true });
  const corrections = await em.find(Correction, key, {
    orderBy: { madeAt: 'asc', responseId: 'asc', id: 'asc' },
    disableIdentityMap: true,
  });
  const overrules = await em.find(Overrule, key, { orderBy: { madeAt: 'asc', id: 'asc' } });
  const notes = await em.find(Note, key, { orderBy: { madeAt: 'asc', id: 'asc' } });
  return {
    format: 'vane-class',
    version: 3,
    class: {
      name: found.name,
      carpet: settings.has('carpet') ? carpetSettings.parse(settings.get('carpet')) : null,
      reading: null,
    },
    children: children.map((c) => ({
      nickname: c.nickname,
      archived_at: c.archivedAt ? iso(c.archivedAt) : null,
      support: supportFile(c),
      door: c.door,
    })),
    sittings: sittings.map((s) => ({
      id: s.id,
      routine: s.routine,
      started_at: iso(s.startedAt),
      answer_mode: s.answerMode,
      settings: s.settings ?? null,
    })),
    responses: (await recordOf(em, key)).map((row) => ({ ...row, child: named(row.child) })),
    corrections: corrections.map((c) => ({
      response_id: c.responseId,
      what: c.what,
      before: part(c.before),
      after: part(c.after),
      by: c.adultName,
      made_at: iso(c.madeAt),
    })),
    overrules: overrules.map((o) => ({
      child: named(o.childId),
      fact: o.fact,
      reading: o.reading,
      reason: o.reason,
      by: o.adultName,
      made_at: iso(o.madeAt),
      removed_at: o.removedAt ? iso(o.removedAt) : null,
    })),
    notes: notes.map((n) => ({
      child: n.childId ? named(n.childId) : null,
      sitting: n.sittingId ?? null,
      text: n.text,
      by: n.adultName,
      made_at: iso(n.madeAt),
    })),
  };
}

const CHUNK = 500;
const inChunks = <T>(all: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(all.length / CHUNK) }, (_, i) => all.slice(i * CHUNK, (i + 1) * CHUNK));

/** Reads an archive, or says where it is none. */
export function readArchive(bytes: Uint8Array): ArchiveRead {
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(bytes).toString('utf8'));
  } catch (error) {
    return { refused: { detail: error instanceof Error ? error.message : String(error) } };
  }
  if (!storable(json)) return { refused: { detail: 'it holds a character that is none' } };
  const parsed = classArchive.safeParse(json);
  if (parsed.success) {
    const { responses, ...archive } = parsed.data;
    return { archive, responses: inChunks(responses).map((some) => JSON.stringify(some)) };
  }
  const places = parsed.error.issues
    .slice(0, 20)
    .map((issue) => ({ place: issue.path.join('.') || 'file', reason: issue.message }));
  return { refused: { places } };
}

/** The name, or with a number behind it where a class has it already. */
async function freeName(em: EntityManager, schoolId: string, wanted: string): Promise<string> {
  const used = new Set((await em.find(SchoolClass, { schoolId }, { fields: ['name'] })).map((c) => c.name));
  let name = wanted;
  for (let n = 2; used.has(name); n++) name = `${wanted.slice(0, 36)} ${n}`;
  return name;
}

/** What the parts of an archive are added with. */
interface Adding {
  readonly em: EntityManager;
  readonly key: ClassKey;
  readonly adult: Env['Variables']['adult'];
  readonly now: Date;
  readonly importId: string;
  /** The new ids of the archive's children. @throws RequestProblem for a nickname that is not among them */
  readonly idOf: (nickname: string) => string;
}

const refuse = (detail: string): never => {
  throw new RequestProblem('not-an-archive', { detail });
};
const made = (at: string): Date => new Date(at);

async function addClass({ em, key, adult, now, importId }: Adding, { name, carpet }: ClassArchive['class']) {
  await em.insert(SchoolClass, {
    schoolId: key.schoolId,
    id: key.classId,
    name,
    createdAt: now,
    archivedAt: null,
    importId,
  });
  await giveClass(em, key, adult.id);
  if (carpet !== null) await em.insert(Setting, { ...key, name: 'carpet', value: carpet });
}

async function addTheChildren({ em, key, now, importId, idOf }: Adding, children: ClassArchive['children']) {
  const rows = children.map((c) => ({
    ...key,
    id: idOf(c.nickname),
    nickname: c.nickname,
    createdAt: now,
    archivedAt: c.archived_at === null ? null : made(c.archived_at),
    importId,
    supports: c.support?.supports ?? [],
    supportWords: c.support?.words ?? '',
    supportBy: c.support?.by ?? '',
    supportAt: c.support?.made_at ? made(c.support.made_at) : null,
    door: c.door,
  }));
  if (rows.length > 0) await taken(() => em.insertMany(Child, rows));
  await demandRoom(em, key.schoolId);
}

/** @returns the ids of the answers */
async function addAnswers(adding: Adding, sittings: ClassArchive['sittings'], texts: readonly string[]) {
  const { em, key, now, importId, idOf } = adding;
  const ids = new Set<string>();
  let left = 0;
  // Sittings come first, also where nobody answered in any.
  for (const text of ['[]', ...texts]) {
    const rows = JSON.parse(text) as ClassArchive['responses'];
    const responses = rows.map((row) => ({ ...row, child: idOf(row.child) }));
    const result = await addToRecord(em, { key, sittings: text === '[]' ? sittings : [], responses }, now, importId);
    left += result.refused.length + result.already.length;
    for (const row of rows) ids.add(row.response_id);
  }
  if (left > 0)
    throw new RequestProblem('already-here', {
      detail: `${left} of its answers are in this school already, or belong to no sitting in it`,
    });
  return ids;
}

/** What adults said of answers, sittings and children. */
async function addSaid(adding: Adding, archive: OpenedArchive['archive'], responses: ReadonlySet<string>) {
  const { em, key, adult, idOf } = adding;
  const sittings = new Set(archive.sittings.map((s) => s.id));
  archive.notes.forEach(({ sitting }, i) => {
    if (sitting !== null && !sittings.has(sitting))
      refuse(`notes.${i}.sitting: there is no sitting "${sitting}" in it`);
  });
  archive.corrections.forEach(({ response_id: id }, i) => {
    if (!responses.has(id)) refuse(`corrections.${i}.response_id: there is no answer "${id}" in it`);
  });
  const nicknames = new Set(archive.children.map((c) => c.nickname));
  // A child of another class has no id here; the file only says that it was another child.
  const part = ({ child, ...rest }: ClassArchive['corrections'][number]['before']): Correctable => ({
    childId: nicknames.has(child) ? idOf(child) : '',
    ...rest,
  });
  const said = (by: string, at: string) => ({ ...key, id: v7(), adultId: adult.id, adultName: by, madeAt: made(at) });
  for (const some of inChunks(archive.corrections))
    await em.insertMany(
      Correction,
      some.map((c) => ({
        ...said(c.by, c.made_at),
        responseId: c.response_id,
        what: c.what,
        before: part(c.before),
        after: part(c.after),
      })),
    );
  for (const some of inChunks(archive.overrules))
    await em.insertMany(
      Overrule,
      some.map(({ child, by, made_at, removed_at, ...word }) => ({
        ...said(by, made_at),
        ...word,
        childId: idOf(child),
        removedAt: removed_at === null ? null : made(removed_at),
      })),
    );
  for (const some of inChunks(archive.notes))
    await em.insertMany(
      Note,
      some.map((n) => ({
        ...said(n.by, n.made_at),
        childId: n.child === null ? null : idOf(n.child),
        sittingId: n.sitting,
        text: n.text,
      })),
    );
}

/** Imports an archive as a new class. Refused whole when its answers are already in the school, or name a child that it lacks. */
export async function addArchive(
  em: EntityManager,
  adult: Env['Variables']['adult'],
  { archive, responses }: OpenedArchive,
  { now, importId }: { readonly now: Date; readonly importId: string },
): Promise<ImportSum> {
  const key = { schoolId: adult.schoolId, classId: v7() };
  const ids = new Map(archive.children.map((c) => [c.nickname, v7()]));
  const idOf = (nickname: string): string =>
    ids.get(nickname) ?? refuse(`it names a child, "${nickname}", who is not among its children`);
  const adding = { em, key, adult, now, importId, idOf };
  const name = await freeName(em, adult.schoolId, archive.class.name);
  await addClass(adding, { ...archive.class, name });
  await addTheChildren(adding, archive.children);
  const answers = await addAnswers(adding, archive.sittings, responses);
  await addSaid(adding, archive, answers);
  const fresh = answers.size + archive.children.length + 1;
  return {
    read: fresh,
    fresh,
    same: 0,
    changed: 0,
    refused: 0,
    lines: [],
    names: [`class ${name}`, ...archive.children.map((c) => c.nickname)].slice(0, 100),
    dates: null,
    misspelt: [],
  };
}
