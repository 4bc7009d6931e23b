interface Waiting<In, Out> {
  readonly asked: In;
  readonly answer: (out: Out) => void;
  readonly fail: (error: unknown) => void;
}

/**
 * Many small questions as few: what is asked while answers are under way goes together into the next one. Where several fail together each is asked by itself, so that none fails for
 * another's fault; and one that has to wait, for a lock say, holds up its own lane alone.
 */
export class Batched<In, Out> {
  readonly #waiting: Waiting<In, Out>[] = [];
  #busy = 0;

  /**
   * @param act answers several, in their order
   * @param most of them at once
   * @param lanes answers under way at the same time
   */
  constructor(
    private readonly act: (asked: readonly In[]) => Promise<readonly Out[]>,
    private readonly most: number,
    private readonly lanes = 1,
  ) {}

  ask(asked: In): Promise<Out> {
    return new Promise((answer, fail) => {
      this.#waiting.push({ asked, answer, fail });
      if (this.#busy < this.lanes) void this.#work();
    });
  }

  async #work(): Promise<void> {
    this.#busy++;
    while (this.#waiting.length > 0) await this.#answer(this.#waiting.splice(0, this.most));
    this.#busy--;
  }

  async #answer(all: readonly Waiting<In, Out>[]): Promise<void> {
    try {
      const answers = await this.act(all.map(({ asked }) => asked));
      all.forEach(({ answer }, i) => answer(answers[i] as Out));
    } catch (error) {
      if (all.length > 1) for (const one of all) await this.#answer([one]);
      else for (const { fail } of all) fail(error);
    }
  }
}
