import type { RecordRow, SittingRow } from '@vane/contract';
import { Recorder, type Keeper } from './recorder';

/** A keeper whose writes end when they are told to, and who says in which order they ended. */
class Slow implements Keeper {
  readonly written: string[] = [];
  readonly waiting: { what: string; end: (error?: Error) => void }[] = [];
  #write(what: string): Promise<void> {
    return new Promise((done, failed) =>
      this.waiting.push({
        what,
        end: (error) => {
          if (error) return failed(error);
          this.written.push(what);
          done();
        },
      }),
    );
  }
  keepSitting = (_: string, { id }: SittingRow): Promise<void> => this.#write(`sitting ${id}`);
  keepOpen = (_: string, { given }: RecordRow): Promise<void> => this.#write(`given ${given}`);
  closeAll = (): Promise<void> => this.#write('closed');
  hold = (): void => undefined;
  release = (): void => undefined;
}
const SITTING = { id: 's1' } as SittingRow;
const answered = (given: string): RecordRow => ({ response_id: 'r1', given }) as RecordRow;
const settled = (): Promise<void> => new Promise((later) => setTimeout(later));

describe('a sitting’s record', () => {
  it('is written in order, however slow the first write is', async () => {
    const keeper = new Slow();
    const recorder = new Recorder(keeper, 'class', SITTING);
    recorder.keep(answered('6'));
    recorder.keep(answered('7'));
    recorder.close();
    for (const what of ['sitting s1', 'given 6', 'given 7', 'closed']) {
      await settled();
      // The next one waits until this one is done.
      expect(keeper.waiting.map((one) => one.what)).toEqual([what]);
      keeper.waiting.shift()!.end();
    }
    await settled();
    expect(keeper.written).toEqual(['sitting s1', 'given 6', 'given 7', 'closed']);
  });

  it('tries a write that failed again until there is room, in order, and says so for as long', async () => {
    const keeper = new Slow();
    const recorder = new Recorder(keeper, 'class', SITTING, 0);
    recorder.keep(answered('6'));
    await settled();
    expect(recorder.unkept()).toBe('');
    keeper.waiting.shift()!.end(new Error('no room'));
    await settled();
    expect(recorder.unkept()).toContain('no room');
    await settled();
    expect(keeper.waiting.map((one) => one.what)).toEqual(['sitting s1']);
    keeper.waiting.shift()!.end();
    await settled();
    expect(recorder.unkept()).toBe('');
    keeper.waiting.shift()!.end();
    await settled();
    expect(keeper.written).toEqual(['sitting s1', 'given 6']);
  });
});
