import { Injectable, signal } from '@angular/core';
import type { Need, PlannedAsk, PlannedSitting, RoutineId } from '@vane/core';

/** The sitting that was chosen on Today: who sits, and the facts of each. */
interface ChosenSitting {
  readonly needs: readonly Need[];
  readonly children: readonly string[];
  /** The routine that opens carpet time for everybody; null where the session stands alone. */
  readonly opener: RoutineId | null;
  readonly factsOf: ReadonlyMap<string, readonly PlannedAsk[]>;
}

/** Carries a planned sitting from Today, or from a child's page, to Carpet. It lives as long as the page: after a reload the carpet is set by hand. */
@Injectable({ providedIn: 'root' })
export class ChosenPlan {
  readonly sitting = signal<ChosenSitting | null>(null);

  take({ children, needs }: PlannedSitting, opener: RoutineId | null = null): void {
    const factsOf = new Map(
      children.map(({ child, facts }) => [child, facts.map(({ fact, form }): PlannedAsk => ({ fact, form }))]),
    );
    this.sitting.set({ needs, opener, children: children.map((c) => c.child), factsOf });
  }
}
