import type { ScreenState } from '@vane/contract';

/** How the other screen is: never heard of, heard lately, or silent for too long. */
export type LinkState = 'waiting' | 'there' | 'silent';

const AGAIN_MS = 600;

/**
 * One side of two screens: writes its own newest state, again after any failure, and hears the other's. States are whole, so nothing has to arrive in order or
 * only once.
 */
export class ScreenLink<Own extends object, Other> {
  #seq = 0;
  #own: Own | null = null;
  #sending = false;
  #again: ReturnType<typeof setTimeout> | null = null;
  #events: EventSource | null = null;
  #heardSeq = 0;
  #closed = false;

  constructor(
    private readonly write: (state: ScreenState<Own>) => Promise<unknown>,
    private readonly address: string,
    private readonly listener: { heard(state: Other): void; ended(): void; unsent(why: unknown): void },
    /** Makes the stream of the other's states; the browser's own, which comes back by itself. */
    private readonly open: (address: string) => EventSource = (where) => new EventSource(where),
  ) {}

  /** Starts above this side's last sequence number: the page may have been reloaded. */
  start(seq: number): void {
    this.#seq = Math.max(this.#seq, seq);
    const events = this.open(this.address);
    this.#events = events;
    events.addEventListener('state', (event) => {
      const { seq: heard, state } = JSON.parse((event as MessageEvent<string>).data) as ScreenState<Other>;
      if (heard <= this.#heardSeq) return;
      this.#heardSeq = heard;
      this.listener.heard(state);
    });
    events.addEventListener('ended', () => {
      this.close();
      this.listener.ended();
    });
  }

  tell(state: Own): void {
    this.#own = state;
    this.#seq++;
    void this.#send();
  }

  close(): void {
    this.#closed = true;
    this.#events?.close();
    if (this.#again !== null) clearTimeout(this.#again);
  }

  /** Only the newest state has to arrive: what was overtaken while sending is left out. */
  async #send(): Promise<void> {
    if (this.#sending || this.#own === null) return;
    this.#sending = true;
    try {
      for (let sent = 0; sent < this.#seq && !this.#closed;) {
        const seq = this.#seq;
        await this.write({ seq, state: this.#own });
        sent = seq;
      }
    } catch (error) {
      this.listener.unsent(error);
      if (!this.#closed) this.#again = setTimeout(() => void this.#send(), AGAIN_MS);
    } finally {
      this.#sending = false;
    }
  }
}
