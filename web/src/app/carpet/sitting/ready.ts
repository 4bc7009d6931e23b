/** Calls back after `ms` milliseconds, unless cancelled. */
export type Wait = (ms: number, then: () => void) => () => void;
export const later: Wait = (ms, then) => {
  const timer = setTimeout(then, ms);
  return () => clearTimeout(timer);
};
/** Time for which the display is watched before a show, as part of the ready, ms. */
const PRELUDE_MS = 500;

/** The ready before a show: when it is over, the show comes by itself. */
export class Ready {
  #stop: (() => void) | null = null;

  constructor(private readonly wait: Wait) {}

  begin(ms: number, then: () => void): void {
    this.cancel();
    this.#stop = this.wait(Math.max(0, ms - PRELUDE_MS), then);
  }
  cancel(): void {
    this.#stop?.();
    this.#stop = null;
  }
}
