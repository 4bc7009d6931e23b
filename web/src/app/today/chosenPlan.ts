import { Injectable, signal } from '@angular/core';

/** The sitting that was chosen on Today: who sits, and the facts of each. */
export interface ChosenSitting {
  readonly children: readonly string[];
  readonly factsOf: ReadonlyMap<string, readonly string[]>;
}

/** Carries a planned sitting from Today to Carpet. It lives as long as the page: after a reload the carpet is set by hand. */
@Injectable({ providedIn: 'root' })
export class ChosenPlan {
  readonly sitting = signal<ChosenSitting | null>(null);
}
