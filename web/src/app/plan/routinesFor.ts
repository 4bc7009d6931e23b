import type { Need, RoutineId } from '@vane/core';

/** Routines that suit a need, by id: with things first, then pictures, then numbers alone. */
export function routinesFor({ need }: Need): RoutineId[] {
  switch (need) {
    case 'begin':
      return ['learn-frame', 'flash-and-say', 'working-number'];
    case 'seeing':
      return ['flash-and-build', 'flash-and-say'];
    case 'anchor':
      return ['to-five', 'ten-card', 'folded-fingers'];
    case 'pairs':
      return ['one-cut', 'all-the-ways', 'sums'];
    case 'undoing':
      return ['part-whole', 'crossed-off', 'family'];
  }
}
