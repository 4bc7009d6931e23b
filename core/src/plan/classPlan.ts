import type { Aim } from './offer';
import { seeded, shuffled } from '../random/random';
import { proposeFacts, type ProposedFact, type ProposeWish } from './propose';
import { schoolDays } from '../time/schoolDay';

/** What a session is for: children with the same need sit together. */
export type Need =
  | { readonly need: 'seeing' }
  | { readonly need: 'anchor'; readonly to: 5 | 10 }
  | { readonly need: 'pairs'; readonly whole: number }
  | { readonly need: 'undoing'; readonly whole: number }
  | { readonly need: 'begin' };

export interface ChildNeed {
  readonly child: string;
  readonly need: Need;
  /** Whole days since the child was last asked; null = never. */
  readonly daysSince: number | null;
  readonly facts: readonly ProposedFact[];
}

/** One planned session. */
export interface PlannedSitting {
  /** Stable while the same children share the same need. */
  readonly id: string;
  readonly need: Need;
  readonly children: readonly ChildNeed[];
  /** Expected length, minutes. */
  readonly minutes: number;
  /** The longest that one of them has waited, in days; null = somebody was never asked. */
  readonly waited: number | null;
}

export interface PlanWish {
  readonly children: readonly (Omit<ProposeWish, 'now' | 'timeZone' | 'aim' | 'count'> & {
    readonly child: string;
    readonly lastAskedAt: number | null;
  })[];
  readonly now: number;
  /** The school's, whose days are meant. IANA name. */
  readonly timeZone: string;
  readonly aim: Aim;
  /** Questions for each child in a sitting. */
  readonly count: number;
}

const GROUP = 4;
const SECONDS_A_QUESTION = 11;
const SETTLING_SECONDS = 40;

const minutesOf = (children: number, count: number): number =>
  Math.max(1, Math.round((children * (count * SECONDS_A_QUESTION) + SETTLING_SECONDS) / 60));

function needFor({ step, whole }: ProposedFact): Need {
  switch (step) {
    case 'seeing':
      return { need: 'seeing' };
    case 'five anchor':
      return { need: 'anchor', to: 5 };
    case 'ten anchor':
      return { need: 'anchor', to: 10 };
    case 'pairs':
      return { need: 'pairs', whole };
    default:
      return { need: 'undoing', whole };
  }
}

/** Needs are the same when they are written the same. */
const nameOf = (need: Need): string => JSON.stringify(need);

/** A child's need: the step with most of the child's proposed facts, without the easy ones. */
function needOf(facts: readonly ProposedFact[], hasRecord: boolean): Need {
  if (!hasRecord) return { need: 'begin' };
  const targets = facts.filter(({ why }) => why !== 'sure-start' && why !== 'sure-between');
  const votes = new Map<string, { need: Need; count: number }>();
  for (const need of (targets.length > 0 ? targets : facts).map(needFor))
    votes.set(nameOf(need), { need, count: (votes.get(nameOf(need))?.count ?? 0) + 1 });
  return [...votes.values()].sort((a, b) => b.count - a.count)[0]?.need ?? { need: 'begin' };
}

/**
 * The sittings worth having next: whoever has waited longest comes first, so that nobody is left out. Each child's facts come from its own readings; children whose
 * facts lie in the same place are put together, at most four. Groups are made anew each time: nobody belongs to one.
 */
export function planClass({ children, now, timeZone, aim, count }: PlanWish): PlannedSitting[] {
  const dayOf = schoolDays(timeZone);
  // Those who have waited equally long are mixed anew every day, the same all day: groups change without anybody deciding who is in which.
  const mixed = shuffled(
    seeded(dayOf(now)),
    [...children].sort((a, b) => (a.child < b.child ? -1 : 1)),
  );
  const left = mixed
    .map((child): ChildNeed => {
      const facts = proposeFacts({ ...child, now, timeZone, aim, count });
      const hasRecord = child.readings.some((r) => r.responses > 0);
      const daysSince = child.lastAskedAt === null ? null : Math.max(0, dayOf(now) - dayOf(child.lastAskedAt));
      return { child: child.child, facts, daysSince, need: needOf(facts, hasRecord) };
    })
    .sort((a, b) => (a.daysSince === b.daysSince ? 0 : (b.daysSince ?? Infinity) - (a.daysSince ?? Infinity)));
  const sittings: PlannedSitting[] = [];
  while (left.length > 0) {
    const { need } = left[0]!;
    const same = left.filter((one) => nameOf(one.need) === nameOf(need)).slice(0, GROUP);
    for (const one of same) left.splice(left.indexOf(one), 1);
    const waits = same.map((one) => one.daysSince ?? Infinity);
    sittings.push({
      id: [nameOf(need), ...same.map((one) => one.child).sort()].join(' '),
      need,
      children: same,
      minutes: minutesOf(same.length, count),
      waited: waits.includes(Infinity) ? null : Math.max(...waits),
    });
  }
  return sittings;
}
