/** Length of a window in seconds: short against what children's times differ by, long enough for a level. */
const WINDOW_S = 0.005;
/** Shortest sound that counts as speech, in windows: a knock or a chair is over sooner. */
const LASTS = 6;
/** Above the room by this factor of power (12 dB) … */
const ABOVE = 16;
/** … and above this power whatever the room: a microphone that is quite still has a floor of nearly nothing. Full scale is 1. */
const LEAST = 1e-5;
/** How fast the room's level is followed, as a share a window: a quarter of a second or so. */
const FOLLOWS = 0.02;
/** Windows heard before anything may count: the room has to be known. */
const SETTLES = 20;

/**
 * Finds the moment a child starts to speak from the level of a microphone alone: the first window of a run that stays clearly above the room. Nothing is kept but the
 * room's level and the state of the run. Soft first sounds (f, s, h) are found late, by up to a tenth of a second: known of every key that goes by level
 * (Rastle & Davis 2002), and part of the hand time, which is measured the same way.
 */
export class OnsetDetector {
  readonly #size: number;
  #heard = 0;
  #power = 0;
  #filled = 0;
  #windows = 0;
  #room = 0;
  #run = 0;
  #open = false;

  /** @param sampleRate samples a second */
  constructor(readonly sampleRate: number) {
    this.#size = Math.max(1, Math.round(WINDOW_S * sampleRate));
  }

  /** From here on the next onset is wanted; the room stays known. */
  listen(): void {
    this.#open = true;
    this.#run = 0;
  }

  /**
   * Takes samples in, −1 … 1, as they come.
   * @returns the sample at which the sound began, counted from the first ever taken in; null when none did
   */
  feed(samples: Iterable<number>): number | null {
    let onset: number | null = null;
    for (const sample of samples) {
      this.#power += sample * sample;
      this.#heard++;
      if (++this.#filled < this.#size) continue;
      onset = this.#window(this.#power / this.#size) ?? onset;
      this.#power = 0;
      this.#filled = 0;
    }
    return onset;
  }

  #window(power: number): number | null {
    this.#windows++;
    const loud = this.#windows > SETTLES && power > Math.max(ABOVE * this.#room, LEAST);
    if (!loud) {
      // What is loud must not become the room.
      this.#room =
        this.#windows <= SETTLES
          ? this.#room + (power - this.#room) / this.#windows
          : this.#room + FOLLOWS * (power - this.#room);
      this.#run = 0;
      return null;
    }
    if (++this.#run < LASTS || !this.#open) return null;
    this.#open = false;
    return this.#heard - this.#run * this.#size;
  }
}
