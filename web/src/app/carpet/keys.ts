import type { Sitting } from './sitting/sitting';

/** Held down, it shows the adult's words where children see this screen too. */
export const READ_KEY = 'h';
/** What helps after a wrong answer, or how a child said they did it: in the order in which they stand there. */
export const THEN_KEYS = ['y', 'u', 'i', 'o', 'p', 'a'] as const;

/** The carpet's keys, in one table: what each does, and what the list of keys says. */
export const KEYS: readonly {
  readonly key: string;
  readonly shown: string;
  readonly does: string;
  readonly run: (sitting: Sitting, at: number) => void;
}[] = [
  { key: ' ', shown: 'Space', does: $localize`show · stop the clock · next`, run: (s, at) => s.goOn(at) },
  ...Array.from({ length: 10 }, (_, n) => ({
    key: String(n),
    shown: String(n),
    does: n === 0 ? $localize`enter the answer; t for ten; past ten the teen, or with Shift the number itself` : '',
    run: (s: Sitting, at: number) => s.mark(n, at),
  })),
  { key: 't', shown: 't', does: $localize`enter ten`, run: (s, at) => s.mark(10, at) },
  { key: 'n', shown: 'n', does: $localize`no answer`, run: (s) => s.noAnswer() },
  { key: 'j', shown: 'j', does: $localize`knew it`, run: (s) => s.toggleSign('knew') },
  { key: 'w', shown: 'w', does: $localize`worked it out`, run: (s) => s.toggleSign('derived') },
  { key: 'k', shown: 'k', does: $localize`counted`, run: (s) => s.toggleSign('counted') },
  { key: 'g', shown: 'g', does: $localize`guessed`, run: (s) => s.toggleSign('guessed') },
  { key: 'f', shown: 'f', does: $localize`used fingers`, run: (s) => s.toggleFiner('fingers') },
  { key: 'l', shown: 'l', does: $localize`lips moved`, run: (s) => s.toggleFiner('lips') },
  ...THEN_KEYS.map((key, i) => ({
    key,
    shown: key,
    does: i === 0 ? $localize`after the answer: what helps, or how they did it` : '',
    run: (s: Sitting) => s.then(i),
  })),
  {
    key: READ_KEY,
    shown: READ_KEY,
    does: $localize`hold to read your words where children see this screen`,
    run: () => undefined,
  },
  { key: 'e', shown: 'e', does: $localize`in a group: this child later`, run: (s) => s.goLater() },
  { key: 's', shown: 's', does: $localize`second look`, run: (s) => s.secondLook() },
  { key: 'Backspace', shown: 'Backspace', does: $localize`undo the last entry`, run: (s) => s.undo() },
  { key: 'v', shown: 'v', does: $localize`void: something went wrong with this one`, run: (s) => s.spoil() },
  { key: 'Escape', shown: 'Esc', does: $localize`pause and continue`, run: (s) => s.togglePause() },
];
