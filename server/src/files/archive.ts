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
    version: 2,
    class: {
      name: found.name,
      carpet: settings.has('carpet') ? carpetSettings.parse(settings.get('carpet')) : null,
      reading: (settings.get('reading') as Record<string, number> | undefined) ?? null,
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

/** Reads an archive, or says where it is none. */
export function readArchive(text: string): ClassArchive {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new RequestProblem('not-an-archive', { detail: error instanceof Error ? error.message : String(error) });
  }
  if (!storable(json)) throw new RequestProblem('not-an-archive', { detail: 'it holds a character that is none' });
  const parsed = classArchive.safeParse(json);
  if (parsed.success) return parsed.data;
  const places = parsed.error.issues
    .slice(0, 20)
    .map((issue) => ({ place: issue.path.join('.') || 'file', reason: issue.message }));
  throw new RequestProblem('not-an-archive', { places });
}

/** The name, or with a number behind it where a class has it already. */
async function freeName(em: EntityManager, schoolId: string, wanted: string): Promise<string> {
  const used = new Set((await em.find(SchoolClass, { schoolId }, { fields: ['name'] })).map((c) => c.name));
  let name = wanted;
  for (let n = 2; used.has(name); n++) name = `${wanted.slice(0, 36)} ${n}`;
  return name;
}

/** Imports an archive as a new class. Refused whole when its answers are already in the school, or name a child that it lacks. */
export async function addArchive(
  em: EntityManager,
  adult: Env['Variables']['adult'],
  archive: ClassArchive,
  { now, importId }: { readonly now: Date; readonly importId: string },
): Promise<ImportSum> {
  const { schoolId } = adult;
  const key = { schoolId, classId: v7() };
  const made = (at: string): Date => new Date(at);
  const name = await freeName(em, schoolId, archive.class.name);
  await em.insert(SchoolClass, { schoolId, id: key.classId, name, createdAt: now, archivedAt: null, importId });
  await giveClass(em, key, adult.id);
  for (const what of ['carpet', 'reading'] as const)
    if (archive.class[what] !== null) await em.insert(Setting, { ...key, name: what, value: archive.class[what] });
  const ids = new Map(archive.children.map((c) => [c.nickname, v7()]));
  const idOf = (nickname: string): string => {
    const id = ids.get(nickname);
    if (id === undefined)
      throw new RequestProblem('not-an-archive', {
        detail: `it names a child, "${nickname}", who is not among its children`,
      });
    return id;
  };
  const rows = archive.children.map((c) => ({
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
  await demandRoom(em, schoolId);
  const sent = archive.responses.map((row) => ({ ...row, child: idOf(row.child) }));
  const { refused, already } = await addToRecord(
    em,
    { key, sittings: archive.sittings, responses: sent },
    now,
    importId,
  );
  if (refused.length + already.length > 0)
    throw new RequestProblem('already-here', {
      detail: `${refused.length + already.length} of its answers are in this school already, or belong to no sitting in it`,
    });
  const sittings = new Set(archive.sittings.map((s) => s.id));
  archive.notes.forEach(({ sitting }, i) => {
    if (sitting !== null && !sittings.has(sitting))
      throw new RequestProblem('not-an-archive', {
        detail: `notes.${i}.sitting: there is no sitting "${sitting}" in it`,
      });
  });
  const responses = new Set(archive.responses.map((row) => row.response_id));
  archive.corrections.forEach(({ response_id }, i) => {
    if (!responses.has(response_id))
      throw new RequestProblem('not-an-archive', {
        detail: `corrections.${i}.response_id: there is no answer "${response_id}" in it`,
      });
  });
  // A child of another class has no id here; the file only says that it was another child.
  const part = ({ child, ...rest }: ClassArchive['corrections'][number]['before']): Correctable => ({
    childId: ids.get(child) ?? '',
    ...rest,
  });
  const by = { ...key, adultId: adult.id };
  const chunks = async <T>(all: readonly T[], insert: (some: T[]) => Promise<unknown>): Promise<void> => {
    for (let i = 0; i < all.length; i += 500) await insert(all.slice(i, i + 500));
  };
  await chunks(archive.corrections, (some) =>
    em.insertMany(
      Correction,
      some.map((c) => ({
        ...by,
        id: v7(),
        responseId: c.response_id,
        what: c.what,
        before: part(c.before),
        after: part(c.after),
        adultName: c.by,
        madeAt: made(c.made_at),
      })),
    ),
  );
  await chunks(archive.overrules, (some) =>
    em.insertMany(
      Overrule,
      some.map(({ child, by: adultName, made_at, removed_at, ...word }) => ({
        ...by,
        ...word,
        id: v7(),
        childId: idOf(child),
        adultName,
        madeAt: made(made_at),
        removedAt: removed_at === null ? null : made(removed_at),
      })),
    ),
  );
  await chunks(archive.notes, (some) =>
    em.insertMany(
      Note,
      some.map((n) => ({
        ...by,
        id: v7(),
        childId: n.child === null ? null : idOf(n.child),
        sittingId: n.sitting,
        text: n.text,
        adultName: n.by,
        madeAt: made(n.made_at),
      })),
    ),
  );
  const fresh = archive.responses.length + archive.children.length + 1;
  return {
    read: fresh,
    fresh,
    same: 0,
    changed: 0,
    refused: 0,
    lines: [],
    names: [`class ${name}`, ...archive.children.map((c) => c.nickname)].slice(0, 100),
  };
}
