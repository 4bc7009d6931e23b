import { hashOf } from '../adults/tokens';
import { Screen } from '../db/entities';
import { setUp, startHarness, type Harness } from '../testing/harness';
import { ScreenStates } from './states';

const DAY = 24 * 3_600_000;
const SCREENS = 60;
const idOf = (n: number): string => `0197c000-0000-7000-8000-0000000${String(10_000 + n)}`;

let harness: Harness;
let key: { schoolId: string; classId: string };
let states: ScreenStates;
beforeEach(async () => {
  harness = await startHarness();
  const { classId } = await setUp(harness.browser());
  const em = harness.orm.em.fork();
  const [school] = await em.execute<{ id: string }[]>('select id from school');
  key = { schoolId: school?.id ?? '', classId };
  states = new ScreenStates(harness.orm, () => harness.clock, DAY);
  for (let n = 0; n < SCREENS; n++)
    await em.insert(Screen, {
      ...key,
      id: idOf(n),
      codeHash: null,
      tokenHash: hashOf(`token ${n}`),
      madeAt: harness.clock,
      codeUntil: harness.clock,
      controlSeq: 0,
      stageSeq: 0,
    });
});
afterEach(() => harness.close());

const follower = (n: number, seen = -1, token = `token ${n}`) => ({
  schoolId: key.schoolId,
  id: idOf(n),
  side: 'control' as const,
  seen,
  tokenHash: hashOf(token),
});

describe('states of many screens', () => {
  it('are stored and read with a few statements, each screen its own', async () => {
    const all = Array.from({ length: SCREENS }, (_, n) => n);
    const from = harness.statements.length;
    const kept = await Promise.all(
      all.map((n) => states.keep('control', { ...key, id: idOf(n), seq: 1, state: { n } })),
    );
    expect(kept).toEqual(all.map(() => true));
    const seen = await Promise.all(all.map((n) => states.read(follower(n))));
    expect(seen).toEqual(all.map((n) => ({ seq: 1, state: { n } })));
    expect(harness.statements.slice(from).filter((sql) => sql.includes('screen')).length).toBeLessThanOrEqual(4);
    // What was seen is not sent again.
    expect(await states.read(follower(3, 1))).toEqual({ seq: 1, state: null });
  });

  it('of one screen: the newest stays, in whatever order they come', async () => {
    const keep = (seq: number): Promise<boolean> =>
      states.keep('control', { ...key, id: idOf(1), seq, state: { seq } });
    expect(await Promise.all([keep(1), keep(3), keep(2)])).toEqual([true, true, true]);
    expect(await keep(2)).toBe(true);
    expect(await states.read(follower(1))).toEqual({ seq: 3, state: { seq: 3 } });
    expect(await states.read({ ...follower(1), side: 'stage' })).toEqual({ seq: 0, state: null });
  });

  it('are told to nobody without a right to them, whoever else is asked for in the same moment', async () => {
    await states.keep('control', { ...key, id: idOf(1), seq: 1, state: {} });
    const asked = [follower(1), follower(1, -1, 'token 2'), { ...follower(1), id: idOf(99) }];
    expect((await Promise.all(asked.map((one) => states.read(one)))).map((one) => one !== null)).toEqual([
      true,
      false,
      false,
    ]);
    const elsewhere = { ...key, classId: '0197c000-0000-7000-8000-000000000009', id: idOf(1) };
    expect(await states.keep('control', { ...elsewhere, seq: 9, state: {} })).toBe(false);
    expect(await states.keep('stage', { schoolId: elsewhere.classId, id: idOf(1), seq: 9, state: {} })).toBe(false);
    harness.clock = new Date(harness.clock.getTime() + DAY + 1);
    expect(await states.read(follower(1))).toBeNull();
  });
});
