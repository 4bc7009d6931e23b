import {
  EMPTY,
  catchError,
  concat,
  concatMap,
  distinctUntilChanged,
  map,
  repeat,
  scan,
  takeWhile,
  timer,
  type Observable,
} from 'rxjs';

/** Offset from this page's clock to the server's, and its error bound. Milliseconds. */
export interface ClockMatch {
  readonly offset: number;
  readonly within: number;
}

/** The server's time, and when this page asked for it and had it, by this page's clock. Milliseconds. */
export interface Told {
  readonly sent: number;
  readonly there: number;
  readonly back: number;
}

/** As good as it need be: two clocks matched so well lie within two milliseconds of one another. */
const GOOD_MS = 0.8;
const FIRST_ASKED = 40;
const LATER_ASKED = 20;
const AGAIN_MS = 20_000;
/** What two quartz clocks may part by in a millisecond. */
const DRIFT = 50e-6;

/** The least and the most that the difference can be, when it was found. */
interface Bounds {
  readonly least: number;
  readonly most: number;
  readonly at: number;
}

/** Intersects both intervals, the old one widened by drift; an empty intersection means that a clock was reset, and the newer one counts. */
function narrowed(known: Bounds, found: Bounds): Bounds {
  const parted = DRIFT * (found.at - known.at);
  const least = Math.max(known.least - parted, found.least);
  const most = Math.min(known.most + parted, found.most);
  return least <= most ? { least, most, at: found.at } : found;
}

/**
 * Matches this page's clock with the server's, as network clocks are matched: the server told its time between the question and the answer (Cristian 1989), and
 * what all answers allow together is narrower than what the quickest allows (Marzullo 1984). It asks at once until one answer is good enough by itself, and goes
 * on asking, because clocks part. A question that fails is left out.
 * @param ask asks the server for its time, once
 */
export function matchedClock(ask: Observable<Told>): Observable<ClockMatch> {
  const found = ask.pipe(
    map(({ sent, there, back }): Bounds => ({ least: there - back, most: there - sent, at: back })),
    catchError(() => EMPTY),
  );
  const round = (asked: number): Observable<Bounds> =>
    found.pipe(
      repeat(asked),
      takeWhile(({ least, most }) => (most - least) / 2 > GOOD_MS, true),
    );
  const later = timer(AGAIN_MS).pipe(concatMap(() => round(LATER_ASKED)));
  return concat(round(FIRST_ASKED), later.pipe(repeat())).pipe(
    scan(narrowed),
    map(({ least, most }) => ({ offset: (least + most) / 2, within: (most - least) / 2 })),
    distinctUntilChanged((one, other) => one.offset === other.offset && one.within === other.within),
  );
}

/** A time of one clock on another, both matched with the server's; and within how much. */
export const across = (at: number, from: ClockMatch, to: ClockMatch): number => at + from.offset - to.offset;
export const withinOf = (one: ClockMatch, other: ClockMatch): number => one.within + other.within;
