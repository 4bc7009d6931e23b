import type { Slip } from '@vane/core';

/** Words of a choice, where they differ from what is recorded. */
export const CHOICE_WORDS: Readonly<Record<string, string>> = {
  same: '= as many',
  different: '≠ not as many',
  left: '◂ this side',
  right: 'this side ▸',
  yes: '✓ yes',
  no: '✗ no',
};

export const SLIP_WORDS: Record<Slip, string> = {
  'second-row-too-soon': 'The second row was begun before the first was full.',
  'start-elsewhere': 'It did not begin in the start box.',
  'with-gaps': 'Boxes were left out on the way.',
};
