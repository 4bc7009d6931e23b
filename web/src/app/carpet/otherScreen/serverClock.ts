import { Injectable, inject } from '@angular/core';
import { defer, map, share, type Observable } from 'rxjs';
import { Api, addressOf } from '../../api/api';
import { matchedClock, type ClockMatch, type Told } from './clock';

/** How this page's clock (`performance.now`) stands to the server's, for as long as somebody wants to know. */
@Injectable({ providedIn: 'root' })
export class ServerClock {
  readonly #api = inject(Api);
  #asked = 0;

  readonly matches: Observable<ClockMatch> = matchedClock(
    defer(() => {
      const question = ++this.#asked;
      const sent = performance.now();
      return this.#api
        .ask('GET /clock', { query: { question: String(question) } })
        .pipe(map(({ at }): Told => ({ there: at, ...(onTheWire(question) ?? { sent, back: performance.now() }) })));
    }),
  ).pipe(share());
}

/**
 * When the question left and its answer arrived, by the browser's own record of requests (Resource Timing): a busy page asks late and hears late, and its own
 * times would say nothing of the way. Null where the record does not tell.
 */
function onTheWire(question: number): Omit<Told, 'there'> | null {
  const own = `${addressOf('GET /clock')}?question=${question}`;
  const [entry] = performance.getEntriesByType('resource').filter(({ name }) => name.endsWith(own));
  // The record has room for some hundred requests, and nobody else reads it.
  performance.clearResourceTimings();
  return entry instanceof PerformanceResourceTiming && entry.requestStart > 0
    ? { sent: entry.requestStart, back: entry.responseStart }
    : null;
}
