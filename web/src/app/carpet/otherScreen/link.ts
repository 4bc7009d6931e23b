import type { ScreenState } from '@vane/contract';
import {
  Observable,
  catchError,
  concat,
  distinctUntilChanged,
  filter,
  ignoreElements,
  map,
  of,
  retry,
  shareReplay,
  switchMap,
  takeUntil,
  timer,
} from 'rxjs';
import { exponentialBackoff } from '../../streams/exponentialBackoff';
import { exhaustMapLatest } from '../../streams/exhaustMapLatest';

/** How the other screen is: never heard of, heard lately, or silent for too long. */
export type LinkState = 'waiting' | 'there' | 'silent';

const AGAIN_MS = 600;
const REOPEN = { first: 500, longest: 5_000 };

/**
 * The other screen's states, each once, the newest only; ends when the server says that the screen has ended. States are whole, so nothing has to arrive in
 * order or only once. A broken stream comes back: the browser reopens it, and what the browser gives up is opened anew.
 * @param open opens the stream
 * @param over whether there is nothing left to open: asked when the browser has given up, since it does not say why
 */
export const statesFrom = <Other>(
  open: () => EventSource,
  over: () => Observable<boolean> = () => of(false),
): Observable<Other> =>
  new Observable<ScreenState<Other>>((subscriber) => {
    const events = open();
    events.addEventListener('state', (event) =>
      subscriber.next(JSON.parse((event as MessageEvent<string>).data) as ScreenState<Other>),
    );
    events.addEventListener('ended', () => subscriber.complete());
    events.addEventListener('error', () => {
      if (events.readyState !== EventSource.CLOSED) return;
      const asked = over().subscribe({
        next: (yes) => (yes ? subscriber.complete() : subscriber.error(new Error('The stream was closed.'))),
        error: (error: unknown) => subscriber.error(error),
      });
      subscriber.add(asked);
    });
    return () => events.close();
  }).pipe(
    retry({ ...exponentialBackoff(REOPEN), resetOnSuccess: true }),
    distinctUntilChanged((before, now) => now.seq <= before.seq),
    map(({ state }) => state),
  );

/**
 * Writes this side's states for the other screen, one at a time, and again after a failure; what was overtaken meanwhile is left out. Tells why a state could
 * not be written.
 * @param seq of this side's last state: the page may have been reloaded
 */
export function writtenTo<Own>(
  states: Observable<Own>,
  seq: number,
  write: (state: ScreenState<Own>) => Observable<unknown>,
): Observable<unknown> {
  const own = states.pipe(
    map((state, i) => ({ seq: seq + i + 1, state })),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  const attempt = (state: ScreenState<Own>): Observable<unknown> => {
    const overtaken = own.pipe(filter((now) => now.seq > state.seq));
    return write(state).pipe(
      ignoreElements(),
      catchError((why: unknown) =>
        concat(
          of(why),
          timer(AGAIN_MS).pipe(
            takeUntil(overtaken),
            switchMap(() => attempt(state)),
          ),
        ),
      ),
    );
  };
  return own.pipe(exhaustMapLatest(attempt));
}
