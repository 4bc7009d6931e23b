import type { RosterRead } from '../outside/rosterService';
import { folded, unguarded } from '@vane/contract';
import { parse } from 'csv-parse/sync';
import { strFromU8, Unzip, UnzipInflate } from 'fflate';
import { RequestProblem } from '../problems/problem';
import type { FileName, Row } from './roster';
import type { RosterClass } from '../outside/rosterService';

/** A roster with a few thousand children is a megabyte or two. */
const LARGEST_UNPACKED = 16 * 1024 * 1024;
const PIECE = 16 * 1024;
/** Of one school. */
const MOST_CLASSES = 400;
const WANTED: readonly FileName[] = ['classes.csv', 'users.csv', 'enrollments.csv'];

/** Reads a roster, or says why it is none. */
export function tryRoster(zip: Uint8Array): RosterRead {
  try {
    return { classes: readRoster(zip) };
  } catch (error) {
    if (error instanceof RequestProblem) return { refused: error.more.detail ?? '' };
    throw error;
  }
}

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
