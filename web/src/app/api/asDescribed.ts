import type { RouteName } from '@vane/contract';
import { identity, map, type MonoTypeOperatorFunction } from 'rxjs';

/** What is wrong with an answer of a route; null where nothing is. */
type Check = (route: RouteName, answer: unknown) => string | null;
let check: Check | null = null;

/** From now on every answer is held against the contract as it enters the page, and one that is otherwise is an error: in development and in tests, which load the table of routes for it. */
export function checkAnswers(by: Check): void {
  check = by;
}

export function asDescribed<T>(route: RouteName): MonoTypeOperatorFunction<T> {
  const by = check;
  if (by === null) return identity;
  return map((answer) => {
    const wrong = by(route, answer);
    if (wrong === null) return answer;
    console.error(wrong);
    throw new Error(wrong);
  });
}
