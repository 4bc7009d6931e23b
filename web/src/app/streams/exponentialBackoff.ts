import { merge, NEVER, take, timer, type Observable, type RetryConfig } from 'rxjs';

/** Up to this share of a wait is left out by chance, so that a room of devices does not come back in the same moment. */
const JITTER = 0.25;

interface Waits {
  /** The first wait, and the longest, ms: each is twice the one before. */
  readonly first: number;
  readonly longest: number;
  /** A reason not to wait any longer. */
  readonly sooner?: Observable<unknown>;
  /** From 0 to 1. */
  readonly random?: () => number;
}

/** How to try again after failures: later and later. */
export const exponentialBackoff = ({ first, longest, sooner = NEVER, random = Math.random }: Waits): RetryConfig => ({
  delay: (_, failures) => {
    const wait = Math.min(longest, first * 2 ** (failures - 1));
    return merge(timer(wait * (1 - JITTER * random())), sooner).pipe(take(1));
  },
});
