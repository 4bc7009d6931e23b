import { InjectionToken } from '@angular/core';
import type { ChildJudgement, Condition, Response } from '@vane/core';
import { Observable } from 'rxjs';

/** What class to simulate. */
export interface RehearsalWish {
  readonly seed: number;
  readonly names: readonly string[];
  readonly weeks: number;
  readonly condition: Condition;
  /** Milliseconds since 1970 at which the weeks end. */
  readonly until: number;
}

export interface Truth {
  readonly child: string;
  readonly fact: string;
  readonly retrieveShare: number;
}

/** What is being done. */
export type RehearsalStep = { readonly step: 'simulate' | 'learn' } | { readonly step: 'judge'; readonly name: string };

export type RehearsalNews =
  | { readonly what: 'progress'; readonly done: number; readonly of: number; readonly doing: RehearsalStep }
  | {
      readonly what: 'done';
      readonly responses: readonly Response[];
      readonly judgements: readonly ChildJudgement[];
      readonly truth: readonly Truth[];
    };

/** Runs a rehearsal and tells how far it is; unsubscribing cancels it. */
type Rehearse = (wish: RehearsalWish) => Observable<RehearsalNews>;

/** In a worker of its own, ended with the subscription: judging a class must not hold up the page. */
export const REHEARSE = new InjectionToken<Rehearse>('rehearse', {
  providedIn: 'root',
  factory: () => (wish) =>
    new Observable<RehearsalNews>((subscriber) => {
      const worker = new Worker(new URL('./rehearse.worker', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<RehearsalNews>) => {
        subscriber.next(data);
        if (data.what === 'done') subscriber.complete();
      };
      worker.onerror = (event) => subscriber.error(new Error(event.message || 'the rehearsal could not be run'));
      worker.postMessage(wish);
      return () => worker.terminate();
    }),
});
