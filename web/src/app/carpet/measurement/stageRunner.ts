import { measured, median, readyTrial, trial, type AnswerMode, type Flag, type Measured, type TrialEffect, type TrialEvent, type TrialState } from '@vane/core';
import type { FrameSource } from './frameSource';

/** What is to be put before the child. Pictures are prepared, hidden, before the show begins. */
export interface StageShow {
  readonly picture: SVGElement;
  /** Covers the picture after a flash; null for shows that stay. */
  readonly cover: SVGElement | null;
  readonly exposureMs: number | null;
  readonly answerMode: AnswerMode;
}

/** `stopped`: the child has spoken, the number is wanted. `answered`: the trial is over. */
export interface StageListener {
  stopped(): void;
  answered(given: string, result: Measured, shownAt: number): void;
}

/**
 * Frames watched before a show: they let the child settle, and measure the display's frame. With the shortest flash they also keep two onsets more than half
 * a second apart: never more than two flashes in a second.
 */
const PRELUDE_FRAMES = 30;
const LEAST_PRELUDE_MS = 500;

/**
 * Runs trials on a stage element: feeds frames and presses to `core`'s machine and does what it says, in the very frame. Plain TypeScript: no
 * framework code runs between onset and answer. The stage carries `data-phase`, for its style and for whoever checks exposures from outside.
 */
export class StageRunner {
  #state: TrialState | null = null;
  #cancel: (() => void) | null = null;
  #shownAt = 0;

  constructor(
    private readonly stage: HTMLElement,
    private readonly frames: FrameSource,
    private readonly listener: StageListener,
    /** Milliseconds since 1970 at the page clock's zero. */
    private readonly timeOrigin: number,
  ) {
    this.#setPhase('ready');
  }

  /** The measured part of a trial is under way: from the prelude to the answer. */
  get busy(): boolean {
    return this.#cancel !== null || (this.#state !== null && this.#state.phase !== 'feedback');
  }

  /** An answer would be taken now. */
  get asking(): boolean {
    return this.#state !== null && ['show', 'mask', 'answer'].includes(this.#state.phase) && this.#state.frames.length > 0;
  }

  /** Prepares the pictures, watches the display for a moment, and shows. */
  begin(show: StageShow): void {
    this.abandon();
    const layers = [layer('picture', show.picture), ...(show.cover ? [layer('cover', show.cover)] : [])];
    this.stage.replaceChildren(...layers);
    this.#setPhase('ready');
    this.#prelude(show, []);
  }

  stop(at: number): void {
    this.#send({ type: 'stop', at, handledAt: this.frames.now() });
  }
  answer(given: string, at: number): void {
    this.#send({ type: 'answer', given, at, handledAt: this.frames.now() });
  }
  noAnswer(): void {
    this.#send({ type: 'no-answer' });
  }
  disturbed(why: Extract<Flag, 'hidden' | 'blurred' | 'paused'>): void {
    this.#send({ type: 'disturbed', why });
  }
  takeBack(): void {
    this.#send({ type: 'take-back' });
  }

  /** Ends whatever is under way without an answer, and empties the stage. */
  abandon(): void {
    this.#cancel?.();
    this.#cancel = null;
    this.#state = null;
    this.stage.replaceChildren();
    this.#setPhase('ready');
  }

  #prelude(show: StageShow, seen: readonly number[]): void {
    this.#cancel = this.frames.next((at) => {
      const times = [...seen, at];
      const first = times[0] ?? at;
      if (times.length <= PRELUDE_FRAMES || at - first < LEAST_PRELUDE_MS) return this.#prelude(show, times);
      const frameMs = median(times.slice(1).map((time, i) => time - (times[i] ?? time))) ?? 1000 / 60;
      this.#state = readyTrial({ exposureMs: show.exposureMs, answerMode: show.answerMode, frameMs });
      this.#send({ type: 'begin' });
      this.#watch();
    });
  }

  #watch(): void {
    this.#cancel = this.frames.next((at) => {
      this.#cancel = null;
      this.#send({ type: 'frame', at });
      if (this.#state !== null && (this.#state.phase === 'show' || this.#state.phase === 'mask')) this.#watch();
    });
  }

  #send(event: TrialEvent): void {
    if (this.#state === null) return;
    const [next, effects] = trial(this.#state, event);
    this.#state = next;
    for (const effect of effects) this.#perform(effect, next);
  }

  #perform(effect: TrialEffect, state: TrialState): void {
    if (effect === 'appear') {
      this.#shownAt = Math.round(this.timeOrigin + (state.frames[0] ?? 0));
      this.#setPhase('show');
    } else if (effect === 'cover') this.#setPhase('mask');
    else if (effect === 'clear') this.#setPhase(state.phase);
    else if (effect === 'stopped') this.listener.stopped();
    else {
      this.#cancel?.();
      this.#cancel = null;
      this.listener.answered(state.given ?? '', measured(state), this.#shownAt);
    }
  }

  #setPhase(phase: TrialState['phase']): void {
    this.stage.dataset['phase'] = phase;
  }
}

function layer(name: string, content: SVGElement): HTMLElement {
  const element = document.createElement('div');
  element.className = `layer ${name}`;
  element.append(content);
  return element;
}
