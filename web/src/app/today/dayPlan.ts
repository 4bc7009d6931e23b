import { inject, Injectable } from '@angular/core';
import type { Aim, PlannedSitting } from '@vane/core';
import { needsOfAll } from '@vane/core/plan/classPlan';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { Session } from '../signedIn/session';

/** What a teacher made of a day's plan; kept on the device until the day is over. */
export interface DayPlan {
  readonly aim: Aim;
  /** Minutes there are. */
  readonly minutes: number;
  /** Sittings kept at the top, put off, and put into an order by hand, by id. */
  readonly pinned: readonly string[];
  readonly skipped: readonly string[];
  readonly order: readonly string[];
  /** Children who changed places: either sits where the other was proposed. */
  readonly swapped: readonly (readonly [string, string])[];
}

export const NEW_DAY: DayPlan = { aim: 'practise', minutes: 8, pinned: [], skipped: [], order: [], swapped: [] };

/** Today's plan as the teacher left it, on this device. */
@Injectable({ providedIn: 'root' })
export class DayPlans {
  readonly #session = inject(Session);
  #key(classId: string): string {
    return `vane-plan ${classId} ${dateOfDay(schoolDays(this.#session.timeZone())(Date.now()))}`;
  }

  read(classId: string): DayPlan {
    const text = localStorage.getItem(this.#key(classId));
    // Nobody but `keep` writes it; an older Vane may have known less.
    return text === null ? NEW_DAY : { ...NEW_DAY, ...(JSON.parse(text) as Partial<DayPlan>) };
  }

  keep(classId: string, plan: DayPlan): void {
    const key = this.#key(classId);
    // Earlier days are over.
    for (const old of Object.keys(localStorage))
      if (old.startsWith(`vane-plan ${classId} `) && old !== key) localStorage.removeItem(old);
    localStorage.setItem(key, JSON.stringify(plan));
  }
}

/** The sittings as the teacher wants them: skipped ones left out; pinned ones first, then those ordered by hand, then as proposed. */
export function arranged(sittings: readonly PlannedSitting[], { pinned, skipped, order }: DayPlan): PlannedSitting[] {
  const rank = (id: string): number => {
    const byHand = order.indexOf(id);
    return (pinned.includes(id) ? 0 : 1000) + (byHand < 0 ? 500 : byHand);
  };
  return sittings.filter(({ id }) => !skipped.includes(id)).sort((a, b) => rank(a.id) - rank(b.id));
}

/** With children swapped, each with their own questions, in the places of one another. */
export function withSwaps(sittings: readonly PlannedSitting[], swapped: DayPlan['swapped']): PlannedSitting[] {
  const all = new Map(sittings.flatMap(({ children }) => children.map((c) => [c.child, c] as const)));
  const place = new Map([...all.keys()].map((child) => [child, child]));
  for (const [a, b] of swapped) {
    const [atA, atB] = [place.get(a), place.get(b)];
    if (atA === undefined || atB === undefined) continue;
    place.set(a, atB).set(b, atA);
  }
  return sittings.map((sitting) => {
    const children = sitting.children.map(({ child }) => all.get(place.get(child) ?? child)!);
    return { ...sitting, children, needs: needsOfAll(children) };
  });
}
