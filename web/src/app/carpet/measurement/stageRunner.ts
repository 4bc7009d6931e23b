import {
  measured,
  median,
  readyTrial,
  trial,
  type AnswerMode,
  type Ask,
  type Flag,
  type Measured,
  type Picture,
  type TrialEffect,
  type TrialEvent,
  type TrialState,
} from '@vane/core';
import { stagePicture } from './stagePictures';
import type { FrameSource } from './frameSource';

/** What is to be put before the child. */
export interface StageShow {
  readonly ask: Ask;
  /** Null for shows that stay. */
  readonly exposureMs: number | null;
  readonly answerMode: AnswerMode;
}

/** Where shows are seen and measured: on this page, or on another screen. Times are on this page's clock. */
export interface Stage {
  /** Somebody is there to see it: this page's own stage, or another screen that was joined. */
  readonly here: boolean;
  /** An answer would be taken now. */
  readonly asking: boolean;
  begin(show: StageShow): void;
  stop(at: number): void;
  answer(given: string, at: number): void;
  noAnswer(): void;
  disturbed(why: Extract<Flag, 'hidden' | 'blurred' | 'paused'>): void;
  takeBack(): void;
  /** Lays a picture out once the answer stands: to look at again or to count. Nothing is measured. */
  lay(picture: Picture): void;
  /** Ends whatever is under way without an answer, and empties the stage. */
  abandon(): void;
}

/** `stopped`: the child has spoken, the number is wanted. `answered`: the trial is over. */
export interface StageListener {
  /** The show is on the screen. */
  shown?(): void;
  stopped(): void;
  /** `within`: how far the clocks of two screens may be apart, in milliseconds; 0 where there is one. */
  answered(given: string, result: Measured, shownAt: number, within: number): void;
}

/**
 * Frames watched before a show: they let the child settle, and measure the display's frame. With the shortest flash they also keep two onsets more than half
 * a second apart: never more than two flashes in a second.
 */
const PRELUDE_FRAMES = 30;
const LEAST_PRELUDE_MS = 500;

/**
 * Runs trials on a stage element: feeds frames and presses to `core`'s machine and does what it says, in the very frame. Plain TypeScript: no
 * framework code runs between onset and answer. The stage carries `data-phase`, for its style and for tests of exposure.
 */
export class StageRunner implements Stage {
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

  readonly here = true;

  /** The measured part of a trial is under way: from the prelude to the answer. */
  get busy(): boolean {
    return this.#cancel !== null || (this.#state !== null && this.#state.phase !== 'feedback');
  }

  get asking(): boolean {
    return (
      this.#state !== null && ['show', 'mask', 'answer'].includes(this.#state.phase) && this.#state.frames.length > 0
    );
  }

  /** Prepares the pictures, watches the display for a moment, and shows. */
  begin(show: StageShow): void {
    const { picture, cover } = stagePicture(show.ask.picture);
    const stays = show.exposureMs === null;
    // What is in view gives way to what stays in view only once that is there: nothing is cleared between them.
    const before = stays && this.#inView ? [...this.stage.children] : [];
    this.abandon();
    // A show that stays needs nothing to wipe it out.
    const layers = [layer('picture', picture), ...(stays ? [] : [layer('cover', cover)])];
    this.stage.replaceChildren(...before.map(asBefore), ...layers);
    this.stage.toggleAttribute('data-stays', stays);
    this.#setPhase('ready');
    this.#prelude(show, []);
  }

  /** A picture can be seen: it stays in view, or was laid out. */
  get #inView(): boolean {
    const { phase } = this.stage.dataset;
    return phase === 'laid' || (this.stage.hasAttribute('data-stays') && (phase === 'feedback' || phase === 'answer'));
  }

  /** `handledAt` is another than now for a press that came a long way: it was handled in time where it was made. */
  stop(at: number, handledAt = this.frames.now()): void {
    this.#send({ type: 'stop', at, handledAt });
  }
  answer(given: string, at: number, handledAt = this.frames.now()): void {
    this.#send({ type: 'answer', given, at, handledAt });
  }
  noAnswer(): void {
    this.#send({ type: 'no-answer' });
  }
  disturbed(why: Extract<Flag, 'hidden' | 'blurred' | 'paused'>): void {
    this.#send({ type: 'disturbed', why });
  }
  takeBack(): void {
    this.#send({ type: 'take-back' });
    if (this.#state !== null) this.#setPhase(this.#state.phase);
  }
  lay(picture: Picture): void {
    if (this.busy) return;
    this.stage.replaceChildren(layer('picture', stagePicture(picture).picture));
    this.#setPhase('laid');
  }

  abandon(): void {
    this.#cancel?.();
    this.#cancel = null;
    this.#state = null;
    this.stage.replaceChildren();
    this.stage.removeAttribute('data-stays');
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
      for (const old of this.stage.querySelectorAll('.before')) old.remove();
      this.listener.shown?.();
    } else if (effect === 'cover') this.#setPhase('mask');
    else if (effect === 'clear') this.#setPhase(state.phase);
    else if (effect === 'stopped') this.listener.stopped();
    else {
      this.#cancel?.();
      this.#cancel = null;
      this.listener.answered(state.given ?? '', measured(state), this.#shownAt, 0);
    }
  }

  #setPhase(phase: TrialState['phase'] | 'laid'): void {
    this.stage.dataset['phase'] = phase;
  }
}

function layer(name: string, content: SVGElement): HTMLElement {
  const element = document.createElement('div');
  element.className = `layer ${name}`;
  element.append(content);
  return element;
}

/** A layer that is seen until the next one is there. */
function asBefore(element: Element): Element {
  element.classList.replace('picture', 'before');
  return element;
}
