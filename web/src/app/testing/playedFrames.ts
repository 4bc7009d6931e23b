import type { FrameSource } from '../carpet/measurement/frameSource';

/** Frames played by hand, one at a time: the fake beside the port. */
export class PlayedFrames implements FrameSource {
  #at = 0;
  #waiting: ((at: number) => void) | null = null;

  constructor(private readonly frameMs = 1000 / 60) {}

  now(): number {
    return this.#at;
  }
  next(callback: (at: number) => void): () => void {
    this.#waiting = callback;
    return () => {
      if (this.#waiting === callback) this.#waiting = null;
    };
  }
  /** True while somebody waits for a frame. */
  get wanted(): boolean {
    return this.#waiting !== null;
  }
  /** Plays one frame, of the usual length or of another. */
  play(lengthMs = this.frameMs): number {
    this.#at += lengthMs;
    const callback = this.#waiting;
    this.#waiting = null;
    callback?.(this.#at);
    return this.#at;
  }
  /** Plays frames until `done` says so; throws after a minute of them, so that a test cannot hang. */
  until(done: () => boolean): number {
    for (let i = 0; i < 60 * 60; i++)
      if (done()) return this.#at;
      else this.play();
    throw new Error('a minute of frames did not bring it about');
  }
}
