import type { ClassReadings } from '@vane/contract';
import type { Reading } from '@vane/core';
import { ClassFit, Judgement, ReadingEntity } from '../db/entities';
import { setUp, startHarness, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

/** A class with one child of three answers, judged; and ways to leave it as if the class was learned again, or the child had answered since. */
async function judgedClass() {
  const browser = harness.browser();
  const { path, children } = await setUp(browser);
  const odo = children.get('Odo') ?? '';
  const responses = [1, 2, 3].map((n) => rowFor(odo, { response_id: `r${n}`, kind: 'add', fact: '2+3', given: '5' }));
  await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
  const reading = async (): Promise<Reading> => {
    for (let tries = 0; tries < 200; tries++) {
      const now = (await (await browser.get(`${path}/readings`)).json()) as ClassReadings;
      if (now.judging === 'done') return now.readings[0]!;
      await new Promise((later) => setTimeout(later, 20));
    }
    throw new Error('the class is never judged');
  };
  const em = harness.orm.em.fork();
  return {
    reading,
    kept: (change: Partial<Pick<Reading, 'reading' | 'pAutomatic'>>) => em.nativeUpdate(ReadingEntity, {}, change),
    learnedAgain: () => em.nativeUpdate(ClassFit, {}, { fittedAt: new Date('2026-01-01T00:00:00Z') }),
    answeredSince: async () => {
      const [kept] = await em.find(Judgement, {}, { disableIdentityMap: true });
      const parts = JSON.parse(kept!.fingerprint) as unknown[];
      await em.nativeUpdate(Judgement, {}, { fingerprint: JSON.stringify(parts.with(3, '2')) });
    },
  };
}

describe('a class that was learned again', () => {
  it('moves no word of a child who answered nothing, unless the probability moved by more than its uncertainty', async () => {
    const { reading, kept, learnedAgain } = await judgedClass();
    const first = await reading();
    const word = first.reading === 'counts' ? 'not yet' : 'counts';
    await kept({ reading: word, pAutomatic: first.pAutomatic - 0.02 });
    await learnedAgain();
    expect(await reading()).toMatchObject({ reading: word, pAutomatic: first.pAutomatic - 0.02 });
  });

  it('moves what moved by more', async () => {
    const { reading, kept, learnedAgain } = await judgedClass();
    const first = await reading();
    await kept({ reading: 'counts', pAutomatic: first.pAutomatic > 0.5 ? 0 : 1 });
    await learnedAgain();
    expect(await reading()).toEqual(first);
  });

  it('holds nothing of a child who answered since', async () => {
    const { reading, kept, learnedAgain, answeredSince } = await judgedClass();
    const first = await reading();
    await kept({ reading: 'counts', pAutomatic: first.pAutomatic - 0.02 });
    await learnedAgain();
    await answeredSince();
    expect(await reading()).toEqual(first);
  });
});
