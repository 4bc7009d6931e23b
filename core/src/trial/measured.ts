import type { Flag } from '../record/response';
import type { TrialState } from './machine';

/** What a finished trial measured. Milliseconds; null = not observed. */
export interface Measured {
  readonly exposureMs: number | null;
  readonly responseMs: number | null;
  readonly flags: readonly Flag[];
  /** Frame times after onset, for whoever wants to check. */
  readonly framesMs: readonly number[];
  readonly frameMs: number;
  readonly droppedFrames: number;
}

const tenth = (ms: number): number => Math.round(ms * 10) / 10;

/**
 * Times out of a trial's state. Exposure runs from the frame that showed to the frame that hid, or to the answer when the answer came first.
 * A `remarked` answer has no time.
 */
export function measured(state: TrialState): Measured {
  const start = state.frames[0];
  const none = { exposureMs: null, responseMs: null, framesMs: [], droppedFrames: 0 };
  if (start === undefined) return { ...none, flags: state.flags, frameMs: state.ask.frameMs };
  const end = state.offsetAt ?? state.pressedAt;
  const gaps = state.frames.slice(1).map((at, i) => at - (state.frames[i] ?? at));
  return {
    exposureMs: end === null ? null : tenth(end - start),
    responseMs: state.pressedAt === null || state.flags.includes('remarked') ? null : tenth(state.pressedAt - start),
    flags: state.flags,
    framesMs: state.frames.map((at) => tenth(at - start)),
    frameMs: tenth(state.ask.frameMs),
    droppedFrames: gaps.reduce((sum, gap) => sum + Math.max(0, Math.round(gap / state.ask.frameMs) - 1), 0),
  };
}
