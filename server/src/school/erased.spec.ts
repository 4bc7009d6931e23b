import type { ImportResult } from '@vane/contract';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect } from '../db/orm';
import { invited, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';
import { eraseAgain, erasedIn, erasedInFile, keepErased, together, type ErasedId } from './erased';

/** What was deleted stays deleted. */
let harness: Harness;
let lead: Browser;
let made: Awaited<ReturnType<typeof setUp>>;
beforeEach(async () => {
  harness = await startHarness();
  lead = harness.browser();
  made = await setUp(lead);
});
afterEach(() => harness.close());

const em = () => harness.orm.em.fork();
const idOf = (child: string): string => made.children.get(child) ?? '';
const remembered = async (): Promise<string[]> => (await erasedIn(em())).map(({ what, id }) => `${what} ${id}`).sort();
const answers = (child: string, id: string, sitting = SITTING) =>
  lead.send('POST', `${made.path}/record`, {
    sittings: [sitting],
    responses: [rowFor(idOf(child), { response_id: id, sitting: sitting.id })],
  });
const erase = (child: string) => lead.send('DELETE', `${made.path}/children/${idOf(child)}`, {});

describe('a child who was deleted', () => {
  it('is remembered by id, is told to devices for as long as their copies last, and comes back with no batch', async () => {
    await answers('Odo', 'r1');
    expect((await erase('Odo')).status).toBe(200);
    expect(await remembered()).toEqual([`child ${idOf('Odo')}`, `sitting ${SITTING.id}`]);
    expect(await (await lead.get('/api/me')).json()).toMatchObject({ erased: [idOf('Odo')] });
    // Another device had not sent yet.
    const late = await answers('Odo', 'r2');
    expect(await late.json()).toMatchObject({ accepted: [], refused: [{ id: 'r2' }] });
    expect(await em().execute('select id from sitting')).toEqual([]);
    await em().execute("update erased set at = at - interval '40 days'");
    expect(await (await lead.get('/api/me')).json()).toMatchObject({ erased: [] });
  });

  it('is in the plan of no class, nor one who moved to another', async () => {
    const { id: to } = (await (await lead.send('POST', '/api/school/classes', { name: 'Tern' })).json()) as {
      id: string;
    };
    const away = (child: string) => ({ date: '2026-11-25', children: [idOf(child)] });
    const settings = { adults: 1, minutes: 20, group: 4, times: 2, away: away('Odo') };
    await em().execute(
      `insert into setting (school_id, class_id, name, value) select school_id, id, 'week-settings', ?::jsonb from class where id = ?`,
      [JSON.stringify({ settings, changedAt: 1 }), made.classId],
    );
    await em().execute(
      `insert into setting (school_id, class_id, name, value) select school_id, id, 'day-plan', ?::jsonb from class where id = ?`,
      [JSON.stringify({ pinned: [idOf('Odo')], changedAt: 1 }), made.classId],
    );
    expect((await lead.send('PUT', `${made.path}/children/${idOf('Odo')}`, { classId: to })).status).toBe(204);
    const kept = await em().execute<{ value: unknown }[]>('select value from setting');
    expect(JSON.stringify(kept)).not.toContain(idOf('Odo'));
    expect(kept).toHaveLength(1);
  });
});

describe('the list', () => {
  it('forgets who comes again on purpose, and knows adults, imports and schools, but no demo', async () => {
    const mate = await invited(harness, lead);
    const { adult } = (await (await mate.get('/api/me')).json()) as { adult: { id: string } };
    await lead.send('DELETE', `/api/school/adults/${adult.id}`, {});
    expect(await remembered()).toEqual([`adult ${adult.id}`]);
    await em().execute(
      `insert into adult (school_id, id, email, name, role, password_hash, created_at)
       select school_id, ?, 'mate@saltmarsh.example', 'Mate', 'teacher', '', now() from adult`,
      [adult.id],
    );
    expect(await remembered()).toEqual([]);
  });

  it('says nothing of an import that goes with its empty class: its answers went along with their child', async () => {
    await answers('Odo', 'r1');
    const csv = await (await lead.get(`${made.path}/responses.csv`)).text();
    const more = csv.replace(/^r1,/m, 'r9,').replaceAll(SITTING.id, 'of-the-file');
    const taken = await lead.send('POST', `${made.path}/import?write=yes`, more, { 'content-type': 'text/csv' });
    const { imported } = (await taken.json()) as ImportResult;
    const { id: to } = (await (await lead.send('POST', '/api/school/classes', { name: 'Tern' })).json()) as {
      id: string;
    };
    for (const child of made.children.keys())
      await lead.send('PUT', `${made.path}/children/${idOf(child)}`, { classId: to });
    expect((await lead.send('DELETE', `/api/school/classes/${made.classId}`, {})).status).toBeLessThan(300);
    expect(await remembered()).toEqual([]);
    expect(await em().execute('select id from response order by id')).toEqual([{ id: 'r1' }, { id: 'r9' }]);
    // Taken back on purpose it is remembered.
    const again = csv.replace(/^r1,/m, 'r8,').replaceAll(SITTING.id, 'of-another');
    const path = `/api/classes/${to}`;
    const second = await lead.send('POST', `${path}/import?write=yes`, again, { 'content-type': 'text/csv' });
    const { imported: other } = (await second.json()) as ImportResult;
    await lead.send('DELETE', `${path}/imports/${other?.id}`, {});
    expect(await remembered()).toEqual([`import ${other?.id}`]);
    expect(imported?.id).not.toBe(other?.id);
  });

  it('stands in a file too, which outlives the database and loses nothing to an empty one', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'vane-erased-'));
    const file = join(folder, 'erased.csv');
    expect(await erasedInFile(file)).toBeNull();
    await keepErased(em(), file);
    expect(await erasedInFile(file)).toBeNull();
    await erase('Odo');
    await keepErased(em(), file);
    const other: ErasedId = { school_id: idOf('Ivo'), what: 'child', id: idOf('Ivo'), at: '2026-01-01T00:00:00Z' };
    await em().execute('delete from erased');
    await keepErased(em(), file);
    expect(await erasedInFile(file)).toMatchObject([{ what: 'child', id: idOf('Odo') }]);
    // Who is here again is struck off; what cannot be read stands in nobody's way.
    const text = await readFile(file, 'utf8');
    expect(together((await erasedInFile(file))!, [other], [other])).toHaveLength(2);
    await rm(file);
    const back = text.replace(idOf('Odo'), idOf('Zadie'));
    await writeFile(file, `${text}nonsense\n${back}`);
    await keepErased(em(), file);
    expect((await erasedInFile(file))?.map(({ id }) => id)).toEqual([idOf('Odo')]);
    await rm(folder, { recursive: true });
  });
});

it('after a restore, what was deleted since is deleted again, with all that goes with it', async () => {
  await answers('Odo', 'r1');
  await answers('Ivo', 'r2', { ...SITTING, id: 's2' });
  const csv = await (await lead.get(`${made.path}/responses.csv`)).text();
  const mate = await invited(harness, lead);
  const { adult } = (await (await mate.get('/api/me')).json()) as { adult: { id: string } };
  const more = csv
    .replace(/^r1,/m, 'r9,')
    .replace(/^r2,.*\n/m, '')
    .replaceAll(SITTING.id, 'of-the-file');
  const taken = await lead.send('POST', `${made.path}/import?write=yes`, more, { 'content-type': 'text/csv' });
  const { imported } = (await taken.json()) as ImportResult;
  expect(imported?.added).toBe(1);
  // What a backup would have brought back.
  const restored = await connect(harness.database.url);
  const since: ErasedId[] = [
    { what: 'child' as const, id: idOf('Ivo') },
    { what: 'adult' as const, id: adult.id },
    { what: 'import' as const, id: imported?.id ?? '' },
    { what: 'child' as const, id: '0197c000-0000-7000-8000-000000000099' },
  ].map((one) => ({ ...one, school_id: '', at: '2026-11-25T09:00:00Z' }));
  const [school] = await em().execute<{ id: string }[]>('select id from school');
  const all = since.map((one) => ({ ...one, school_id: school?.id ?? '' }));
  expect(await eraseAgain(restored.em.fork(), all, harness.clock)).toBe(3);
  await restored.close();
  expect(await em().execute('select id from response')).toEqual([{ id: 'r1' }]);
  expect(await em().execute('select id from sitting')).toEqual([{ id: SITTING.id }]);
  expect(await em().execute('select nickname from child order by 1')).toEqual([
    { nickname: 'Odo' },
    { nickname: 'Zadie' },
  ]);
  expect(await em().execute('select name from adult')).toEqual([{ name: 'Harbour keeper' }]);
  expect(await remembered()).toContain('child 0197c000-0000-7000-8000-000000000099');
  const log = await em().execute<{ detail: string }[]>("select detail from audit where what = 'child deleted'");
  expect(log).toEqual([{ detail: 'with 1 responses, again after a restore' }]);
});
