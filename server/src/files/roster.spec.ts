import type { ImportResult } from '@vane/contract';
import { strToU8, zipSync } from 'fflate';
import fc from '@vane/core/testing/property';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { RequestProblem } from '../problems/problem';
import { readRoster } from './readRoster';
import { rosterFile } from './roster';

let harness: Harness;
let browser: Browser;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
  await setUp(browser);
});
afterEach(() => harness.close());

const json = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;
const counted = async (table: string): Promise<number> =>
  Number((await harness.orm.em.fork().execute<{ n: string }[]>(`select count(*) as n from ${table}`))[0]?.n);

describe('rosters', () => {
  it('go out and come back the same', async () => {
    const zip = new Uint8Array(await (await browser.get('/api/school/roster.zip')).arrayBuffer());
    expect(readRoster(zip).map((one) => [one.name, one.children.map((c) => c.nickname)])).toEqual([
      ['Sandpiper', ['Ivo', 'Odo', 'Zadie']],
    ]);
    expect(await json(browser.send('POST', '/api/school/roster?write=yes', zip))).toMatchObject({
      read: 3,
      same: 3,
      fresh: 0,
      imported: null,
    });
  });

  it('from the simulated service bring classes and children by first name, and are taken back', async () => {
    const zip = new Uint8Array(await (await browser.get('/api/school/roster-service')).arrayBuffer());
    const look = await json<ImportResult>(browser.send('POST', '/api/school/roster', zip));
    expect(look.names).toEqual(expect.arrayContaining(['class Dunlin', 'Marlo (Sandpiper)', 'Pelle (Dunlin)']));
    expect(await counted('child')).toBe(3);
    const { imported, fresh } = await json<ImportResult>(browser.send('POST', '/api/school/roster?write=yes', zip));
    expect([fresh, await counted('child'), await counted('class')]).toEqual([11, 13, 2]);
    await browser.send('DELETE', `/api/school/imports/${imported?.id}`, {});
    expect([await counted('child'), await counted('class')]).toEqual([3, 1]);
  });

  it('make one line of every name, whatever stands in it', async () => {
    const zip = zipSync({
      'classes.csv': strToU8('sourcedId,title\nc1,"Dun\0lin\nof the\tquay"\n'),
      'users.csv': strToU8('sourcedId,role,givenName,familyName\nu1,student,"Iv\0o",Sand\n'),
      'enrollments.csv': strToU8('classSourcedId,userSourcedId,role\nc1,u1,student\n'),
    });
    expect(await json(browser.send('POST', '/api/school/roster?write=yes', zip))).toMatchObject({
      names: ['class Dun lin of the quay', 'Iv o (Dun lin of the quay)'],
    });
  });

  it('keep no family names, and tell two of one name apart', () => {
    const zip = zipSync({
      'classes.csv': strToU8('sourcedId,title\nc1,Dunlin\n'),
      'users.csv': strToU8(
        'sourcedId,role,givenName,familyName\nu1,student,Ivo,Sand\nu2,student,Ivo,Reed\nu3,student,Ivo,Rush\nu4,teacher,Ada,Quay\n',
      ),
      'enrollments.csv': strToU8(
        'classSourcedId,userSourcedId,role\nc1,u1,student\nc1,u2,student\nc1,u3,student\nc1,u4,teacher\n',
      ),
    });
    expect(readRoster(zip)[0]?.children.map((c) => c.nickname)).toEqual(['Ivo', 'Ivo R.', 'Ivo 2']);
  });

  it.each([
    ['no archive', strToU8('hello'), /no archive/],
    ['a file missing', zipSync({ 'classes.csv': strToU8('sourcedId,title\n') }), /users.csv is missing/],
    [
      'a column missing',
      zipSync({
        'classes.csv': strToU8('sourcedId\nx\n'),
        'users.csv': strToU8('sourcedId,role,givenName,familyName\n'),
        'enrollments.csv': strToU8('classSourcedId,userSourcedId,role\n'),
      }),
      /classes.csv, line 2: title is missing/,
    ],
    ['a bomb', zipSync({ 'users.csv': new Uint8Array(40_000_000) }), /larger than any roster/],
  ])('refuse %s by name', async (_, zip, reason) => {
    const answer = await browser.send('POST', '/api/school/roster', zip);
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as { detail: string }).detail).toMatch(reason);
  });

  it('that were made here are read as they were', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc
            .stringMatching(/^[A-Za-z=+' -]{1,12}$/)
            .map((s) => s.trim())
            .filter(Boolean),
          { maxLength: 6, selector: (s) => s.toLowerCase() },
        ),
        (names) => {
          const zip = rosterFile(
            { id: 's', name: 'S' },
            [{ id: 'c', name: 'C', children: names.map((nickname, i) => ({ id: `u${i}`, nickname })) }],
            2026,
          );
          expect(readRoster(zip)[0]?.children.map((c) => c.nickname)).toEqual(names);
        },
      ),
    );
  });

  it('of forty thousand rows gives every child a name of their own; more classes than a school has are refused', () => {
    const rosterOf = (n: number): Uint8Array => {
      const lines = (head: string, line: (i: number) => string): Uint8Array =>
        strToU8([head, ...Array.from({ length: n }, (_, i) => line(i))].join('\n'));
      return zipSync({
        'classes.csv': strToU8('sourcedId,title\nc0,One\nc1,Two\n'),
        'users.csv': lines('sourcedId,role,givenName,familyName', (i) => `u${i},student,Oriel,`),
        'enrollments.csv': lines('classSourcedId,userSourcedId,role', (i) => `c${i % 2},u${i},student`),
      });
    };
    const [zip, children] = [rosterOf(40_000), 20_000];
    const [one, two] = readRoster(zip);
    expect([one!.children.length, two!.children.length]).toEqual([children, children]);
    expect(new Set(one!.children.map((c) => c.nickname)).size).toBe(children);
    const many = zipSync({
      'classes.csv': strToU8(['sourcedId,title', ...Array.from({ length: 500 }, (_, i) => `c${i},N${i}`)].join('\n')),
      'users.csv': strToU8('sourcedId,role,givenName,familyName\n'),
      'enrollments.csv': strToU8('classSourcedId,userSourcedId,role\n'),
    });
    expect(() => readRoster(many)).toThrow(RequestProblem);
  });

  it('whose archive lies about the size of a file is refused', () => {
    const zip = zipSync({
      'classes.csv': strToU8('sourcedId,title\nc0,One\n'),
      'users.csv': strToU8('sourcedId,role,givenName,familyName\n'),
      'enrollments.csv': strToU8('classSourcedId,userSourcedId,role\n'),
    });
    expect(readRoster(zip)).toHaveLength(1);
    // The uncompressed size of the first file, in its local header (PKZIP APPNOTE 4.3.7).
    const lying = zip.slice();
    new DataView(lying.buffer).setUint32(22, 7, true);
    expect(() => readRoster(lying)).toThrow(RequestProblem);
  });
});
