import { computed, signal } from '@angular/core';
import type { RecordRow } from '@vane/contract';
import { observedText, parseObserved, type Explanation, type Help, type Sign, type Slip } from '@vane/core';

export const FINER_SIGNS = ['fingers', 'lips'] as const;
export type FinerSign = (typeof FINER_SIGNS)[number];

/** What an adult adds to an answer, as the record has it. */
type Marks = Pick<RecordRow, 'observed' | 'explanation' | 'help' | 'second_answer'>;
const NONE: Marks = { observed: '', explanation: '', help: [], second_answer: '' };

/** What is marked beside an answer, from the show on: what was seen, how the child said they did it, what helped, and what came then. */
export class AnswerMarks {
  readonly #marks = signal<Marks>(NONE);
  readonly #observed = computed(() => parseObserved(this.#marks().observed) ?? { sign: null, finerSigns: [] });

  readonly all = this.#marks.asReadonly();
  readonly sign = computed(() => this.#observed().sign);
  readonly finer = computed((): readonly string[] => this.#observed().finerSigns);
  readonly explanation = computed(() => this.#marks().explanation);
  readonly help = computed((): readonly Help[] => this.#marks().help);
  readonly secondAnswer = computed(() => this.#marks().second_answer);

  clear(): void {
    this.#marks.set(NONE);
  }
  /** As a row has them. */
  take({ observed, explanation, help, second_answer }: Marks): void {
    this.#marks.set({ observed, explanation, help, second_answer });
  }
  /** What was seen stays; what belonged to the answer goes with it: how counters lay, how it was explained, what helped. */
  answerTakenBack(slip: Slip | null): void {
    if (slip !== null)
      this.#observe(
        this.sign(),
        this.finer().filter((one) => one !== slip),
      );
    this.#marks.update(({ observed }) => ({ ...NONE, observed }));
  }
  toggleSign(sign: Sign): void {
    this.#observe(this.sign() === sign ? null : sign, this.finer());
  }
  toggleFiner(sign: string): void {
    const now = this.finer();
    this.#observe(this.sign(), now.includes(sign) ? now.filter((s) => s !== sign) : [...now, sign]);
  }
  toggleExplanation(explanation: Explanation): void {
    this.#marks.update((m) => ({ ...m, explanation: m.explanation === explanation ? '' : explanation }));
  }
  addHelp(help: Help): void {
    if (!this.help().includes(help)) this.#marks.update((m) => ({ ...m, help: [...m.help, help] }));
  }
  answerAgain(given: string): void {
    this.#marks.update((m) => ({ ...m, second_answer: given }));
  }

  #observe(sign: Sign | null, finerSigns: readonly string[]): void {
    this.#marks.update((m) => ({ ...m, observed: observedText({ sign, finerSigns }) }));
  }
}
