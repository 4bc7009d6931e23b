/** Work that has begun and not ended: requests, and what goes on in the background. Whoever stops the server lets it end before the database and the threads that it needs are taken away. */
export class UnderWay {
  readonly #works = new Set<Promise<void>>();

  /** Counts this work until it ends, well or not; returns it. */
  counted<T>(work: Promise<T>): Promise<T> {
    const end = (): void => void this.#works.delete(ended);
    const ended: Promise<void> = work.then(end, end);
    this.#works.add(ended);
    return work;
  }

  /** When nothing is under way any more, what began meanwhile included. */
  async ended(): Promise<void> {
    while (this.#works.size > 0) await Promise.all(this.#works);
  }
}
