import type { Sitting } from './sitting/sitting';

/** The carpet's keys, in one table: what each does, and what the list of keys says. */
export const KEYS: readonly {
  readonly key: string;
  readonly shown: string;
  readonly does: string;
  readonly run: (sitting: Sitting, at: number) => void;
}[] = [
  { key: ' ', shown: 'Space', does: 'show · stop the clock · go on', run: (s, at) => s.goOn(at) },
  ...Array.from({ length: 10 }, (_, n) => ({
    key: String(n),
    shown: String(n),
    does: n === 0 ? 'mark the answer; t for ten' : '',
    run: (s: Sitting, at: number) => s.mark(n, at),
  })),
  { key: 't', shown: 't', does: 'mark ten', run: (s, at) => s.mark(10, at) },
  { key: 'n', shown: 'n', does: 'no answer came', run: (s) => s.noAnswer() },
  { key: 'j', shown: 'j', does: 'saw it or knew it', run: (s) => s.toggleSign('knew') },
  { key: 'w', shown: 'w', does: 'worked it out', run: (s) => s.toggleSign('derived') },
  { key: 'k', shown: 'k', does: 'counted', run: (s) => s.toggleSign('counted') },
  { key: 'g', shown: 'g', does: 'guessed', run: (s) => s.toggleSign('guessed') },
  { key: 'f', shown: 'f', does: 'used fingers', run: (s) => s.toggleFiner('fingers') },
  { key: 'l', shown: 'l', does: 'lips moved', run: (s) => s.toggleFiner('lips') },
  { key: 'e', shown: 'e', does: 'in a group: this child later', run: (s) => s.goLater() },
  { key: 's', shown: 's', does: 'second look', run: (s) => s.secondLook() },
  { key: 'Backspace', shown: 'Backspace', does: 'undo the last mark', run: (s) => s.undo() },
  { key: 'v', shown: 'v', does: 'void: this one was spoiled', run: (s) => s.spoil() },
  { key: 'Escape', shown: 'Esc', does: 'pause and go on', run: (s) => s.togglePause() },
];
