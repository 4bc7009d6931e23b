import type { Slip } from '@vane/core';

/** Words of a choice, where they differ from what is recorded. */
export const CHOICE_WORDS: Readonly<Record<string, string>> = {
  same: $localize`= the same`,
  different: $localize`≠ different`,
  left: $localize`◂ this side`,
  right: $localize`this side ▸`,
  yes: $localize`✓ yes`,
  no: $localize`✗ no`,
};

export const SLIP_WORDS: Record<Slip, string> = {
  'second-row-too-soon': $localize`They started the second row before the first was full.`,
  'start-elsewhere': $localize`They did not begin in the start box.`,
  'with-gaps': $localize`They left boxes empty in between.`,
};
