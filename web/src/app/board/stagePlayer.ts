import type { ControlState, StageCommand, StageNews, StageState } from '@vane/contract';
import type { Board, Measured } from '@vane/core';
import { v7 } from 'uuid';
import type { ClockMatch } from '../carpet/otherScreen/clock';
import type { FrameSource } from '../carpet/measurement/frameSource';
import { StageRunner, type StageListener } from '../carpet/measurement/stageRunner';

/** A press whose time cannot be known is flagged, as one that a busy page handled late. */
const UNKNOWN_MS = 1000;

/**
 * The stage's side of two screens: does in order what the adult's side wants, each thing once, and tells what happened. Shows and presses are measured here, by this
 * device's own frames and stamps.
 */
export class StagePlayer implements StageListener {
  readonly #runner: StageRunner;
  readonly #page = v7();
  #trial: number | null = null;
  #done = 0;
  #news: readonly StageNews[] = [];
  #board: Board | null = null;

  constructor(
    stage: HTMLElement,
    private readonly frames: FrameSource,
    /** Milliseconds since 1970 at the page clock's zero. */
    private readonly timeOrigin: number,
    private readonly clock: () => ClockMatch | null,
    private readonly tell: (state: StageState) => void,
  ) {
    this.#runner = new StageRunner(stage, frames, this, timeOrigin);
  }

  get asking(): boolean {
    return this.#runner.asking;
  }

  heard(control: ControlState): void {
    // A page that was just opened knows nothing of a trial that is on: what was measured of it is gone.
    if (this.#trial === null) {
      this.#trial = control.trial;
      this.#done = control.commands.length;
      const on = control.look.moment === 'asking' || control.look.moment === 'stopped';
      return control.trial > 0 && on ? this.#add({ news: 'lost' }) : this.here();
    }
    if (control.trial < this.#trial) return;
    if (control.trial > this.#trial) {
      this.#trial = control.trial;
      this.#done = 0;
      this.#news = [];
      this.#board = null;
      if (control.show) this.#runner.begin(control.show);
    }
    const commands = control.commands.slice(this.#done);
    this.#done = control.commands.length;
    for (const command of commands) this.#perform(command);
  }

  /** The child pressed a number, a choice or a cut. */
  press(given: string, at: number): void {
    if (this.#runner.asking) this.#add({ news: 'press', given, at });
  }
  /** The child is ready for the next question, or has finished building. */
  go(at: number): void {
    this.#add({ news: 'go', at });
  }
  built(board: Board | null): void {
    this.#board = board;
    if (board !== null) this.here();
  }
  disturbed(why: 'hidden' | 'blurred'): void {
    this.#runner.disturbed(why);
  }

  /** Tells that this screen is here, and where it is. */
  here(): void {
    this.tell({ page: this.#page, trial: this.#trial ?? 0, news: this.#news, board: this.#board, clock: this.clock() });
  }

  shown(): void {
    this.#add({ news: 'shown' });
  }
  stopped(): void {
    this.#add({ news: 'stopped' });
  }
  answered(given: string, result: Measured, shownAt: number): void {
    // The moment is the server's, where it is known: this device's own clock may be wrong.
    const match = this.clock();
    const at = match === null ? shownAt : Math.round(shownAt - this.timeOrigin + match.offset);
    this.#add({ news: 'answered', given, result, shownAt: at });
  }

  #add(news: StageNews): void {
    this.#news = [...this.#news, news];
    this.here();
  }

  #perform(command: StageCommand): void {
    switch (command.do) {
      case 'stop':
        return this.#runner.stop(...this.#timed(command.at));
      case 'answer':
        return this.#runner.answer(command.given, ...this.#timed(command.at));
      case 'no-answer':
        return this.#runner.noAnswer();
      case 'disturbed':
        return this.#runner.disturbed(command.why);
      case 'take-back':
        return this.#runner.takeBack();
      case 'lay':
        return this.#runner.lay(command.picture);
      case 'abandon':
        return this.#runner.abandon();
    }
  }

  /** When a press was, and when it was handled: where it was made, it was handled at once. */
  #timed(at: number): [at: number, handledAt: number] {
    if (at >= 0) return [at, at];
    const now = this.frames.now();
    return [now, now + UNKNOWN_MS];
  }
}
