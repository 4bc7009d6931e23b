import type { CarpetSettings } from '@vane/contract';
import type { Counters } from '@vane/core';

/** What counters are drawn as: the class's own things, or plain dots. */
export const countersOf = ({ options, words }: CarpetSettings): Counters =>
  options.counters === 'things' ? words.things : 'dots';
