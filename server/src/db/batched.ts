/** Many small questions as few: what is asked while an answer is under way goes together into the next one. */
export class Batched<In, Out> {
  #waiting: { readonly asked: In; readonly answer: (out: Out) => void; readonly fail: (error: unknown) => void }[] = [];
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
    while (this.#waiting.length > 0) {
      const now = this.#waiting.splice(0, this.most);
      try {
        const answers = await this.act(now.map(({ asked }) => asked));
        now.forEach(({ answer }, i) => answer(answers[i] as Out));
      } catch (error) {
        for (const { fail } of now) fail(error);
      }
    }
    this.#busy = false;
  }
}
