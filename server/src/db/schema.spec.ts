import { setUp, startHarness, type Harness } from '../testing/harness';
import { SITTING, rowFor } from '../testing/rows';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

/** Tables that grow with every sitting: they must be partitionable by school, and spreadable over several machines. */
const GROWING = [
  'sitting',
  'response',
  'reading',
  'judgement',
  'week_reading',
  'correction',
  'overrule',
  'note',
  'audit',
  'child',
  'setting',
  'class_fit',
  'group_sheet',
  'import',
];

/** Rows of a class. */
const OF_CLASS =
  /\b(from|join|into|update)\s+"?(sitting|response|reading|judgement|week_reading|correction|overrule|note|setting|class_fit|group_sheet)"?\s/i;

describe('the tables that grow', () => {
  it('have the school first in every key and unique index, and are referred to only together with it', async () => {
    const em = harness.orm.em.fork();
    const keys: { table: string; name: string; columns: string[] }[] = await em.execute(
      `select t.relname as table, i.relname as name,
         array(select a.attname::text from unnest(x.indkey) with ordinality k(n, place) join pg_attribute a on a.attrelid = t.oid and a.attnum = k.n order by place) as columns
       from pg_index x join pg_class t on t.oid = x.indrelid join pg_class i on i.oid = x.indexrelid
       where x.indisunique and t.relnamespace = 'public'::regnamespace`,
    );
    for (const table of GROWING) {
      const own = keys.filter((key) => key.table === table);
      expect([table, own.length > 0]).toEqual([table, true]);
      for (const key of own) expect([key.name, key.columns[0]]).toEqual([key.name, 'school_id']);
    }
    const references: { definition: string }[] = await em.execute(
      `select pg_get_constraintdef(oid) as definition from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace
         and confrelid::regclass::text <> 'school' and regexp_replace(conrelid::regclass::text, '_\\d+$', '') = any (string_to_array(?, ','))`,
      [GROWING.join(',')],
    );
    expect(references.length).toBeGreaterThan(8);
    for (const { definition } of references)
      expect(definition).toMatch(/^FOREIGN KEY \(school_id, [\w, ]+\) REFERENCES \w+/);
  });

  it('lie in parts, a school in one of them, where they grow fastest; and a school is looked for in its own part alone', async () => {
    const em = harness.orm.em.fork();
    const parted: { name: string; by: string; parts: string }[] = await em.execute(
      `select partrelid::regclass::text as name, pg_get_partkeydef(partrelid) as by, (select count(*) from pg_inherits where inhparent = partrelid) as parts
       from pg_partitioned_table where (select relnamespace from pg_class where oid = partrelid) = 'public'::regnamespace order by 1`,
    );
    expect(parted).toEqual(
      ['correction', 'response', 'sitting'].map((name) => ({ name, by: 'HASH (school_id)', parts: '16' })),
    );
    const plan: { 'QUERY PLAN': string }[] = await em.execute(
      `explain select * from response where school_id = '0197c000-0000-7000-8000-000000000001'`,
    );
    const touched = new Set(JSON.stringify(plan).match(/response_\d+/g));
    expect(touched.size).toBe(1);
  });

  it('are never asked without the school, and rows of a class not without the class', async () => {
    const browser = harness.browser();
    const { path, classId, children } = await setUp(browser);
    const odo = children.get('Odo') ?? '';
    const from = harness.statements.length;
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(odo), rowFor(odo, { response_id: 'r2' })],
    });
    await browser.send('POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'answer', given: '6' } });
    await browser.send('POST', `${path}/notes`, { sitting: 's1', text: 'calm' });
    await browser.send('POST', `${path}/children/${odo}/overrules`, {
      fact: '3+4',
      reading: 'knows',
      reason: 'told me how',
    });
    for (const get of [
      '',
      '/readings',
      '/log?fact=show&only=wrong',
      '/responses.csv',
      '/over-time',
      `/children/${odo}`,
      `/children/${odo}/moved`,
      `/children/${odo}/over-time`,
      `/children/${odo}/record.json`,
    ])
      expect([get, (await browser.get(`${path}${get}`)).status]).toEqual([get, 200]);
    const growing = new RegExp(`\\b(from|join|into|update)\\s+"?(${GROWING.join('|')})"?\\s`, 'i');
    const heard = () => harness.statements.slice(from).filter((sql) => growing.test(sql));
    const before = heard().length;
    for (const get of ['/api/school', '/api/school/classes', '/api/school/audit', '/api/school/mail'])
      await browser.get(get);
    await browser.send('POST', `/api/school/classes/${classId}/roll-over`, { name: 'Heron', children: [odo] });
    const me = (await (await browser.get('/api/me')).json()) as { classes: { id: string }[] };
    expect((await browser.send('DELETE', `/api/classes/${me.classes[0]?.id}/children/${odo}`, {})).status).toBe(200);
    const asked = heard();
    expect(asked.length).toBeGreaterThan(40);
    expect(asked.filter((sql) => !sql.includes('school_id'))).toEqual([]);
    const ofClass = asked.slice(0, before).filter((sql) => OF_CLASS.test(sql));
    expect(ofClass.length).toBeGreaterThan(20);
    // A sitting that several children shared stays in its class when one of them goes to another.
    const shared = /^\[query\] select .* from "sitting" as \S+ where \S+"school_id" = \S+ and \S+"id" in/;
    // A correction writes the rows that it has read, by their class, and locked.
    const locked = /^\[query\] update "response" set [^;]* where "school_id" = \S+ and "id" = \S+ \[/;
    expect(ofClass.filter((sql) => ![/class_id/, shared, locked].some((one) => one.test(sql)))).toEqual([]);
  });
});
