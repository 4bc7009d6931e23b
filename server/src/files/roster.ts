import { folded, guarded, unguarded, type ImportResult } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { strFromU8, strToU8, Unzip, UnzipInflate, zipSync } from 'fflate';
import { v7 } from 'uuid';
import type { Env } from '../context';
import { Child, ClassAdult, School, SchoolClass } from '../db/entities';
import { RequestProblem } from '../problem';

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
type FileName = keyof typeof FILES;
type Row = Readonly<Record<string, string>>;

/** A school's roster, as a service would serve it. */
export interface RosterService {
  fetch(): Promise<Uint8Array>;
}

export interface RosterClass {
  readonly id: string;
  readonly name: string;
  readonly children: readonly { readonly id: string; readonly nickname: string }[];
}

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

/** A roster with a few thousand children is a megabyte or two. */
const LARGEST_UNPACKED = 16 * 1024 * 1024;
const PIECE = 16 * 1024;
/** Of one school. */
const MOST_CLASSES = 400;
const WANTED: readonly FileName[] = ['classes.csv', 'users.csv', 'enrollments.csv'];

/** Reads a roster's archive: its classes with their children. @throws RequestProblem not-a-roster, naming file and reason */
export function readRoster(zip: Uint8Array): RosterClass[] {
  const refuse = (detail: string): never => {
    throw new RequestProblem('not-a-roster', { detail });
  };
  const files = unpackedFiles(zip, refuse);
  const read = (name: FileName, columns: readonly string[]): Row[] => {
    const file = files.get(name) ?? refuse(`${name} is missing`);
    let rows: Row[];
    try {
      rows = parse(strFromU8(file), {
        bom: true,
        columns: true,
        skip_empty_lines: true,
        delimiter: [',', ';', '\t'],
        relax_column_count: true,
      });
    } catch (error) {
      return refuse(`${name}: ${error instanceof Error ? error.message : String(error)}`);
    }
    for (const [i, row] of rows.entries())
      for (const column of columns)
        if (row[column] === undefined) return refuse(`${name}, line ${i + 2}: ${column} is missing`);
    return rows.filter((row) => row['status'] !== 'tobedeleted');
  };
  const users = new Map(
    read('users.csv', ['sourcedId', 'role', 'givenName', 'familyName']).map((row) => [row['sourcedId'], row]),
  );
  const students = new Map<string, Row[]>();
  for (const row of read('enrollments.csv', ['classSourcedId', 'userSourcedId', 'role'])) {
    if (row['role'] !== 'student') continue;
    const [classId = '', userId = ''] = [row['classSourcedId'], row['userSourcedId']];
    const user = users.get(userId) ?? refuse(`enrollments.csv: there is no user ${userId}`);
    const own = students.get(classId);
    if (own) own.push(user);
    else students.set(classId, [user]);
  }
  const classes = read('classes.csv', ['sourcedId', 'title']);
  if (classes.length > MOST_CLASSES)
    return refuse(`classes.csv has ${classes.length} classes: at most ${MOST_CLASSES} are taken`);
  return classes.map((one) => ({
    id: one['sourcedId'] ?? '',
    name: nameOf(one['title'], 40),
    children: nicknamed(students.get(one['sourcedId'] ?? '') ?? []),
  }));
}

/** The wanted files of an archive, by what they really hold: what its directory says of their sizes is anybody's word. */
function unpackedFiles(zip: Uint8Array, refuse: (detail: string) => never): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let unpacked = 0;
  let broken: Error | null = null;
  const unzip = new Unzip((file) => {
    if (!WANTED.some((wanted) => wanted === file.name)) return;
    const parts: Uint8Array[] = [];
    file.ondata = (error, part, final) => {
      if (error) return void (broken = error);
      unpacked += part.length;
      parts.push(part);
      if (!final) return;
      const whole = Buffer.concat(parts);
      if (file.originalSize !== undefined && file.originalSize !== whole.length)
        broken = new Error(`${file.name} is not as large as the archive says`);
      files.set(file.name, whole);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    // Piece by piece: a few bytes can unpack to a thousand times as many.
    for (let from = 0; from < zip.length; from += PIECE) {
      unzip.push(zip.subarray(from, from + PIECE), from + PIECE >= zip.length);
      if (unpacked > LARGEST_UNPACKED) return refuse('unpacked it would be larger than any roster');
      if (broken !== null) throw broken as Error;
    }
  } catch (error) {
    if (error instanceof RequestProblem) throw error;
    const why = error instanceof Error && error.message.includes('archive says') ? `: ${error.message}` : '';
    return refuse(`it is no archive of a roster’s files (.zip)${why}`);
  }
  if (files.size === 0) return refuse('it is no archive of a roster’s files (.zip)');
  return files;
}

/** A name as one line, whatever stood in the file. */
const nameOf = (cell: string | undefined, most: number): string =>
  unguarded(cell ?? '')
    .replace(/\p{Cc}+/gu, ' ')
    .trim()
    .slice(0, most);

/** First names alone; where a class has two of one name, the family name's first letter is added, and a number where that is not enough. */
function nicknamed(students: readonly Row[]): { id: string; nickname: string }[] {
  const usedNames = new Set<string>();
  const lastNumber = new Map<string, number>();
  return students.map((row) => {
    const first = nameOf(row['givenName'], 30) || 'child';
    const letter = (row['familyName'] ?? '').trim().charAt(0);
    const choices = [first, ...(letter ? [`${first} ${letter}.`] : [])];
    let nickname = choices.find((name) => !usedNames.has(folded(name)));
    for (let n = (lastNumber.get(folded(first)) ?? 1) + 1; nickname === undefined; n++) {
      lastNumber.set(folded(first), n);
      if (!usedNames.has(folded(`${first} ${n}`))) nickname = `${first} ${n}`;
    }
    usedNames.add(folded(nickname));
    return { id: row['sourcedId'] ?? '', nickname };
  });
}

/** Adds classes and children that are not there yet, by name. Whoever is there is left alone; nobody is taken away. */
export async function addRoster(
  em: EntityManager,
  adult: Env['Variables']['adult'],
  roster: readonly RosterClass[],
  { now, importId }: { readonly now: Date; readonly importId: string },
): Promise<ImportResult> {
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
      await em.insert(ClassAdult, { schoolId, classId, adultId: adult.id });
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
  return { ...sum, changed: 0, refused: 0, lines: [], names: names.slice(0, 100), importId };
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
