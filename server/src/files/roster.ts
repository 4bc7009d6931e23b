import type { RosterClass } from '../outside/rosterService';
import { folded, guarded, type ImportSum } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { stringify } from 'csv-stringify/sync';
import { strToU8, zipSync } from 'fflate';
import { v7 } from 'uuid';
import type { Env } from '../request/context';
import { giveClass } from '../adults/rights';
import { demandRoom } from '../classes/children';
import { Child, School, SchoolClass } from '../db/entities';
import { RequestProblem } from '../problems/problem';

/** OneRoster 1.1 CSV (1EdTech): classes and children as files in one archive. Of people only what Vane asks for goes out or comes in: a first name as the nickname. */
const FILES = {
  'orgs.csv': ['sourcedId', 'status', 'dateLastModified', 'name', 'type', 'identifier', 'parentSourcedId'],
  'academicSessions.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'type',
    'startDate',
    'endDate',
    'parentSourcedId',
    'schoolYear',
  ],
  'courses.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'schoolYearSourcedId',
    'title',
    'courseCode',
    'grades',
    'orgSourcedId',
    'subjects',
    'subjectCodes',
  ],
  'classes.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'grades',
    'courseSourcedId',
    'classCode',
    'classType',
    'location',
    'schoolSourcedId',
    'termSourcedIds',
    'subjects',
    'subjectCodes',
    'periods',
  ],
  'users.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'enabledUser',
    'orgSourcedIds',
    'role',
    'username',
    'userIds',
    'givenName',
    'familyName',
    'middleName',
    'identifier',
    'email',
    'sms',
    'phone',
    'agentSourcedIds',
    'grades',
    'password',
  ],
  'enrollments.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'classSourcedId',
    'schoolSourcedId',
    'userSourcedId',
    'role',
    'primary',
    'beginDate',
    'endDate',
  ],
} as const;
export type FileName = keyof typeof FILES;
export type Row = Readonly<Record<string, string>>;

/** The files of a roster in one archive. */
export function rosterFile(
  school: { readonly id: string; readonly name: string },
  classes: readonly RosterClass[],
  year: number,
): Uint8Array {
  const rows: Record<FileName, Row[]> = {
    'orgs.csv': [{ sourcedId: school.id, name: school.name, type: 'school' }],
    'academicSessions.csv': [
      {
        sourcedId: `year-${year}`,
        title: `${year}/${year + 1}`,
        type: 'schoolYear',
        startDate: `${year}-09-01`,
        endDate: `${year + 1}-08-31`,
        schoolYear: `${year + 1}`,
      },
    ],
    'courses.csv': [
      {
        sourcedId: `facts-${year}`,
        schoolYearSourcedId: `year-${year}`,
        title: 'Facts within ten',
        orgSourcedId: school.id,
      },
    ],
    'classes.csv': classes.map((one) => ({
      sourcedId: one.id,
      title: one.name,
      courseSourcedId: `facts-${year}`,
      classType: 'homeroom',
      schoolSourcedId: school.id,
      termSourcedIds: `year-${year}`,
    })),
    'users.csv': classes.flatMap((one) =>
      one.children.map((child) => ({
        sourcedId: child.id,
        enabledUser: 'true',
        orgSourcedIds: school.id,
        role: 'student',
        username: child.id,
        givenName: child.nickname,
        familyName: '',
      })),
    ),
    'enrollments.csv': classes.flatMap((one) =>
      one.children.map((child) => ({
        sourcedId: `${one.id}:${child.id}`,
        classSourcedId: one.id,
        schoolSourcedId: school.id,
        userSourcedId: child.id,
        role: 'student',
      })),
    ),
  };
  const manifest = stringify([
    ['propertyName', 'value'],
    ['manifest.version', '1.0'],
    ['oneroster.version', '1.1'],
    ...Object.keys(FILES).map((name) => [`file.${name.replace('.csv', '')}`, 'bulk']),
    ['source.systemName', 'Vane'],
  ]);
  const files = Object.entries(FILES).map(([name, columns]): [string, Uint8Array] => [
    name,
    strToU8(
      stringify([columns, ...rows[name as FileName].map((row) => columns.map((column) => guarded(row[column] ?? '')))]),
    ),
  ]);
  return zipSync({ 'manifest.csv': strToU8(manifest), ...Object.fromEntries(files) });
}

/** Adds missing classes and children, matched by name. Nothing existing is changed or deleted. */
export async function addRoster(
  em: EntityManager,
  adult: Env['Variables']['adult'],
  roster: readonly RosterClass[],
  { now, importId }: { readonly now: Date; readonly importId: string },
): Promise<ImportSum> {
  const { schoolId } = adult;
  const names: string[] = [];
  const sum = { read: 0, fresh: 0, same: 0 };
  for (const one of roster) {
    if (one.name === '') continue;
    const there = await em.findOne(SchoolClass, { schoolId, name: one.name });
    const classId = there?.id ?? v7();
    if (!there) {
      await em.insert(SchoolClass, {
        schoolId,
        id: classId,
        name: one.name,
        createdAt: now,
        archivedAt: null,
        importId,
      });
      await giveClass(em, { schoolId, classId }, adult.id);
      names.push(`class ${one.name}`);
    }
    const own = new Set(
      (await em.find(Child, { schoolId, classId }, { fields: ['nickname'] })).map((c) => folded(c.nickname)),
    );
    const fresh = one.children.filter((child) => !own.has(folded(child.nickname)));
    if (own.size + fresh.length > 60)
      throw new RequestProblem('too-many-children', { detail: `${one.name} would have ${own.size + fresh.length}` });
    if (fresh.length > 0)
      await em.insertMany(
        Child,
        fresh.map(({ nickname }) => ({
          schoolId,
          classId,
          id: v7(),
          nickname,
          createdAt: now,
          archivedAt: null,
          importId,
        })),
      );
    sum.read += one.children.length;
    sum.fresh += fresh.length + (there ? 0 : 1);
    sum.same += one.children.length - fresh.length;
    names.push(...fresh.map((child) => `${child.nickname} (${one.name})`));
  }
  await demandRoom(em, schoolId);
  return { ...sum, changed: 0, refused: 0, lines: [], names: names.slice(0, 100), dates: null, misspelt: [] };
}

/** The roster of a whole school as it is. */
export async function schoolRoster(em: EntityManager, schoolId: string, now: Date): Promise<Uint8Array> {
  const school = await em.findOneOrFail(School, { id: schoolId });
  const classes = await em.find(SchoolClass, { schoolId, archivedAt: null }, { orderBy: { name: 'asc' } });
  const children = await em.find(Child, { schoolId, archivedAt: null }, { orderBy: { nickname: 'asc' } });
  const byClass = new Map(classes.map(({ id }) => [id, [] as { id: string; nickname: string }[]]));
  for (const { id, nickname, classId } of children) byClass.get(classId)?.push({ id, nickname });
  const year = now.getMonth() >= 7 ? now.getFullYear() : now.getFullYear() - 1;
  return rosterFile(
    school,
    classes.map(({ id, name }) => ({
      id,
      name,
      children: byClass.get(id) ?? [],
    })),
    year,
  );
}
