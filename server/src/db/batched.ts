interface Asked<In, Out> {
  readonly asked: In;
  readonly answer: (out: Out) => void;
  readonly fail: (error: unknown) => void;
}

/**
 * Many small questions as few: what is asked while an answer is under way goes together into the next one. Where several fail together each is asked by itself, so that none fails for
 * another's fault.
 */
export class Batched<In, Out> {
  readonly #waiting: Asked<In, Out>[] = [];
  #busy = false;

  /**
   * @param act answers several, in their order
   * @param most of them at once
   */
  constructor(
    private readonly act: (asked: readonly In[]) => Promise<readonly Out[]>,
    private readonly most: number,
  ) {}

  ask(asked: In): Promise<Out> {
    return new Promise((answer, fail) => {
      this.#waiting.push({ asked, answer, fail });
      if (!this.#busy) void this.#work();
    });
  }

  async #work(): Promise<void> {
    this.#busy = true;
    while (this.#waiting.length > 0) await this.#answer(this.#waiting.splice(0, this.most));
    this.#busy = false;
  }

  async #answer(all: readonly Asked<In, Out>[]): Promise<void> {
    try {
      const answers = await this.act(all.map(({ asked }) => asked));
      all.forEach(({ answer }, i) => answer(answers[i] as Out));
    } catch (error) {
      if (all.length > 1) for (const one of all) await this.#answer([one]);
      else for (const { fail } of all) fail(error);
    }
  }
}
