import { Batched } from './batched';

const tick = (): Promise<void> => new Promise((later) => setTimeout(later, 1));

describe('many questions', () => {
  it('are asked together while an answer is under way, so many at once at most, each with its own answer', async () => {
    const batches: number[][] = [];
    const batched = new Batched<number, number>(async (asked) => {
      batches.push([...asked]);
      await tick();
      return asked.map((n) => 10 * n);
    }, 3);
    expect(await Promise.all([1, 2, 3, 4, 5].map((n) => batched.ask(n)))).toEqual([10, 20, 30, 40, 50]);
    expect(batches).toEqual([[1], [2, 3, 4], [5]]);
    expect(await batched.ask(6)).toBe(60);
  });

  it('that have to wait hold up their own lane alone', async () => {
    let go = (): void => undefined;
    const held = new Promise<void>((resolve) => (go = resolve));
    const batched = new Batched<number, number>(
      async (asked) => {
        if (asked.includes(1)) await held;
        await tick();
        return asked;
      },
      10,
      2,
    );
    const first = batched.ask(1);
    expect(await Promise.all([2, 3, 4].map((n) => batched.ask(n)))).toEqual([2, 3, 4]);
    go();
    expect(await first).toBe(1);
  });

  it('fail each for its own fault', async () => {
    const batched = new Batched<number, number>(async (asked) => {
      await tick();
      if (asked.includes(3)) throw new Error('three');
      return asked;
    }, 10);
    const all = await Promise.allSettled([1, 2, 3, 4].map((n) => batched.ask(n)));
    expect(all.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled']);
    await expect(batched.ask(3)).rejects.toThrow('three');
  });
});
