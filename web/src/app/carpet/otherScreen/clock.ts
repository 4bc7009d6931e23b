/** Offset from this page's clock to the server's, and its error bound. Milliseconds. */
export interface ClockMatch {
  readonly offset: number;
  readonly within: number;
}

const SAMPLES = 8;
const AGAIN_MS = 20_000;
/** A match this old may have drifted away: quartz clocks part by a few milliseconds in a minute at worst. */
const LASTS_MS = 180_000;

/**
 * Matches this page's clock with the server's, as network clocks are matched: the answer that came back quickest bounds the difference by half of its way
 * (Cristian 1989). It goes on doing so, because clocks part.
 */
export class Clock {
  #best: (ClockMatch & { readonly at: number }) | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    /** Asks the server for its time. */
    private readonly ask: () => Promise<number>,
    private readonly now: () => number,
  ) {}

  get match(): ClockMatch | null {
    return this.#best && { offset: this.#best.offset, within: this.#best.within };
  }

  /** Begins to match; resolves after the first round. A question that fails is left out: the next round asks again. */
  async start(): Promise<void> {
    for (let i = 0; i < SAMPLES; i++) await this.sample().catch(() => undefined);
    this.#timer = setTimeout(() => void this.start(), AGAIN_MS);
  }
  stop(): void {
    if (this.#timer !== null) clearTimeout(this.#timer);
  }

  async sample(): Promise<void> {
    const sent = this.now();
    const there = await this.ask();
    const back = this.now();
    const found = { offset: there - (sent + back) / 2, within: (back - sent) / 2, at: back };
    if (this.#best === null || found.within <= this.#best.within || back - this.#best.at > LASTS_MS) this.#best = found;
  }
}

/** A time of one clock on another, both matched with the server's; and within how much. */
export const across = (at: number, from: ClockMatch, to: ClockMatch): number => at + from.offset - to.offset;
export const withinOf = (one: ClockMatch, other: ClockMatch): number => one.within + other.within;
