import { adultMarks, type AnswerMode, type Flag } from '../record/response';

/**
 * One trial from ready to answered, as a pure state machine. Times are milliseconds on the page's own clock (DOMHighResTimeStamp): frame times as
 * animation frames carry them, presses by `event.timeStamp`. A runner performs the effects; the machine never reads a clock.
 */
export interface TrialAsk {
  /** Milliseconds for which the show is to be seen; null = it stays until the answer. */
  readonly exposureMs: number | null;
  readonly answerMode: AnswerMode;
  /** Length of one display frame in milliseconds, measured before the show. */
  readonly frameMs: number;
}

/** The shortest and the longest show, milliseconds: shorter ones are a flicker, longer ones are no flash. For safety, whatever a device sends. */
export const EXPOSURE_MS = { least: 200, most: 3000 } as const;

export type TrialPhase = 'ready' | 'show' | 'mask' | 'answer' | 'feedback';

export interface TrialState {
  readonly phase: TrialPhase;
  readonly ask: TrialAsk;
  /** Frame times from onset to the frame that hid the show, first and last included. */
  readonly frames: readonly number[];
  readonly offsetAt: number | null;
  /** When the answer came (tap) or the clock was stopped (spoken); null until then. */
  readonly pressedAt: number | null;
  readonly given: string | null;
  readonly flags: readonly Flag[];
}

export type TrialEvent =
  | { readonly type: 'begin' }
  | { readonly type: 'frame'; readonly at: number }
  | { readonly type: 'stop'; readonly at: number; readonly handledAt: number }
  | { readonly type: 'answer'; readonly given: string; readonly at: number; readonly handledAt: number }
  | { readonly type: 'no-answer' }
  | { readonly type: 'disturbed'; readonly why: Extract<Flag, 'hidden' | 'blurred' | 'paused'> }
  | { readonly type: 'take-back' };

/** `appear`, `cover`, `clear`: draw the show, the cover, the empty stage, in this very frame. `stopped`: ask the adult for the number. `answered`: record it. */
export type TrialEffect = 'appear' | 'cover' | 'clear' | 'stopped' | 'answered';

type TrialStep = readonly [TrialState, readonly TrialEffect[]];

/** How long the cover stays before the stage is empty: long enough to wipe the after-image (Sperling 1960: gone after about 300 ms). */
export const COVER_MS = 350;
/** Least time after onset for an answer to what was seen; simple reactions of five-year-olds take about 400 ms. */
export const EARLIEST_MS = 200;
/** A press handled later than this met a busy page. */
export const SLOW_HANDLER_MS = 50;

/** A trial that waits to begin. */
export const readyTrial = (ask: TrialAsk): TrialState => ({
  phase: 'ready',
  ask,
  frames: [],
  offsetAt: null,
  pressedAt: null,
  given: null,
  flags: [],
});

const flagged = (state: TrialState, ...more: (Flag | false)[]): readonly Flag[] => [
  ...new Set([...state.flags, ...more.filter((flag): flag is Flag => flag !== false)]),
];

const onset = (state: TrialState): number | null => state.frames[0] ?? null;

function onFrame(state: TrialState, at: number): TrialStep {
  if (state.phase === 'show') {
    const start = onset(state);
    if (start === null) return [{ ...state, frames: [at] }, ['appear']];
    const last = state.frames[state.frames.length - 1] ?? start;
    // A missed frame matters only to a show that is meant to end by itself.
    const missed = state.ask.exposureMs !== null && at - last > 1.5 * state.ask.frameMs;
    const flags = flagged(state, missed && 'dropped-frame');
    // The frame nearest to the time asked hides the show: N frames later when none is dropped, and still right on time when one is.
    const due = state.ask.exposureMs !== null && at - start >= state.ask.exposureMs - state.ask.frameMs / 2;
    const next = { ...state, frames: [...state.frames, at], flags };
    return due ? [{ ...next, phase: 'mask', offsetAt: at }, ['cover']] : [next, []];
  }
  if (state.phase === 'mask' && state.offsetAt !== null && at - state.offsetAt >= COVER_MS)
    return [{ ...state, phase: 'answer' }, ['clear']];
  return [state, []];
}

/** The moment of the answer: closes the time, whatever the stage shows. Only the first press counts. */
function pressed(state: TrialState, at: number, handledAt: number): TrialState {
  const start = onset(state);
  if (start === null || state.pressedAt !== null) return state;
  return {
    ...state,
    pressedAt: at,
    flags: flagged(state, handledAt - at > SLOW_HANDLER_MS && 'slow-handler', at - start < EARLIEST_MS && 'early'),
  };
}

const asking = (phase: TrialPhase): boolean => phase === 'show' || phase === 'mask' || phase === 'answer';

function finished(state: TrialState, given: string): TrialStep {
  const off = exposureError(state);
  return [
    {
      ...state,
      phase: 'feedback',
      given,
      flags: flagged(state, off !== null && off > 1.05 * state.ask.frameMs && 'exposure-off'),
    },
    ['clear', 'answered'],
  ];
}

/** How far the seen exposure was from the asked one, in milliseconds; null when nothing was asked, or the show was cut short by the answer. */
export function exposureError(state: TrialState): number | null {
  const start = onset(state);
  if (start === null || state.offsetAt === null || state.ask.exposureMs === null) return null;
  return Math.abs(state.offsetAt - start - state.ask.exposureMs);
}

/** The machine. Events that mean nothing in a phase leave the state as it is: they are classified by the phase, not lost by accident. */
export function trial(state: TrialState, event: TrialEvent): TrialStep {
  switch (event.type) {
    case 'begin':
      return state.phase === 'ready' ? [{ ...state, phase: 'show' }, []] : [state, []];
    case 'frame':
      return onFrame(state, event.at);
    case 'stop': {
      if (!asking(state.phase)) return [state, []];
      const next = pressed(state, event.at, event.handledAt);
      return next === state ? [state, []] : [next, ['stopped']];
    }
    case 'answer':
      if (!asking(state.phase) || onset(state) === null) return [state, []];
      // A spoken answer that was marked without stopping the clock has no time: the adult's search for the key is not the child's.
      return finished(
        adultMarks(state.ask.answerMode) ? state : pressed(state, event.at, event.handledAt),
        event.given,
      );
    case 'no-answer':
      return asking(state.phase) && onset(state) !== null ? finished(state, '') : [state, []];
    case 'disturbed':
      return asking(state.phase) && state.pressedAt === null
        ? [{ ...state, flags: flagged(state, event.why) }, []]
        : [state, []];
    case 'take-back':
      return takeBack(state);
  }
}

/** After an undo the number is given again. A spoken answer keeps the time at which the child spoke; a tapped one has none any more. */
function takeBack(state: TrialState): TrialStep {
  if (state.phase !== 'feedback') return [state, []];
  const keepsTime = adultMarks(state.ask.answerMode) && state.pressedAt !== null;
  return [
    { ...state, phase: 'answer', given: null, flags: keepsTime ? state.flags : flagged(state, 'remarked') },
    keepsTime ? ['stopped'] : [],
  ];
}
