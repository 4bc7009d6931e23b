import type { Reading } from '../reading/reading';
import type { Form } from '../routines/routine';
import { retention, USUAL_HALF_LIFE_DAYS } from '../reading/forgetting';
import { schoolDays } from '../time/schoolDay';
import type { Support } from '../routines/support';
import { offerOf, type Aim, type Offered } from './offer';

/** Why a fact is proposed, as data; the catalogue has the words. */
export type Why = 'sure-start' | 'sure-between' | 'unsure' | 'never-asked' | 'to-learn' | 'fading' | 'next-number';

/** What a question is for: at the session's need, known and kept warm, or the opening question that comes right. */
export type Role = 'need' | 'warm' | 'sure';

export interface ProposedFact extends Pick<Offered, 'fact' | 'step' | 'whole'> {
  readonly why: Why;
  readonly role: Role;
  /** How it is put. */
  readonly form: Form;
  readonly pAutomatic: number;
  readonly reading: Reading | null;
}

/** What questions are expected to tell of all facts on offer, beside those that were chosen before. */
export interface Gain {
  of(offered: Offered): number;
  ask(offered: Offered): void;
}

export interface ProposeWish {
  readonly readings: readonly Reading[];
  /** When each fact was asked last, milliseconds since 1970; facts never asked are not in it. */
  readonly lastAsked: ReadonlyMap<string, number>;
  readonly now: number;
  /** The school's: what was asked today is asked differently. IANA name. */
  readonly timeZone: string;
  readonly aim: Aim;
  readonly count: number;
  /** Needed to judge (`expectedGain`); apart, since to practise nothing of it is used. */
  readonly gainOf?: (offer: readonly Offered[]) => Gain;
  /** How fast this child forgets (`halfLifeDays`); the usual pace when not given. */
  readonly halfLife?: number;
  /** Facts the teacher does not want today. */
  readonly without?: ReadonlySet<string>;
  /** Adjustments for the child; none when not given. */
  readonly support?: readonly Support[];
  /** What may be asked; the path decides when not given. */
  readonly offer?: readonly Offered[];
}

/** About four in five are to be right; to find out what is known, which is done seldom, two in three. */
const RIGHT_SHARE = { practise: 0.8, judge: 0.65 } as const;
/** At most this many uncertain facts in a row. */
const IN_A_ROW = { practise: 3, judge: 5 } as const;
/** A fact asked on the same day tells little more today: other days are wanted. */
const ASKED_TODAY = 0.3;

/** Chance of a right answer: known facts nearly always; counted ones mostly; what was mostly wrong, rarely. */
function rightChance({ p, reading }: Offered): number {
  if (reading?.reading === 'not yet') return 0.35;
  const unknown = reading === null || reading.responses === 0 ? 0.6 : 0.8;
  return 0.97 * p + unknown * (1 - p);
}

export interface Weighed extends Offered {
  readonly worth: number;
  readonly why: Why;
  readonly right: number;
  /** Sure enough to start with. */
  readonly sure: boolean;
}

/** Value of asking a fact today. To judge: as it is today's, beside what it is expected to tell. To practise: nearly known and fading facts first. */
function weigh(
  offered: Offered,
  { aim, now, timeZone, lastAsked, halfLife = USUAL_HALF_LIFE_DAYS }: ProposeWish,
): Weighed {
  const { fact, step, place, answer, whole, p, reading } = offered;
  const asked = lastAsked.get(fact);
  // By days of the school, so that a plan is the same from morning to evening.
  const dayOf = schoolDays(timeZone);
  const days = asked === undefined ? Infinity : Math.max(0, dayOf(now) - dayOf(asked));
  const fresh = days === 0 ? ASKED_TODAY : 1;
  const right = rightChance(offered);
  const sure = p >= 0.75;
  const never = reading === null || reading.responses === 0;
  // Field by field: this is done for every fact of every child, and spread out the plan of a week takes three times as long.
  const weighed = (worth: number, why: Why): Weighed => ({
    fact,
    step,
    place,
    answer,
    whole,
    p,
    reading,
    right,
    sure,
    worth,
    why,
  });
  if (aim === 'judge') return weighed(fresh, never ? 'never-asked' : 'unsure');
  const fading = sure && Number.isFinite(days) ? 1 - retention(days, reading?.days ?? 0, halfLife) : 0;
  if (sure) return weighed(0.6 * fading * fresh, 'fading');
  const near = 0.2 + 0.8 * Math.min(1, p / 0.6);
  const on = place === 'next' ? 0.5 : 1;
  return weighed(near * on * fresh, place === 'next' ? 'next-number' : never ? 'never-asked' : 'to-learn');
}

/** What the path has for a child, as far as their support allows; the same from day to day, until something is judged. */
export function offeredTo({ readings, aim, support }: Pick<ProposeWish, 'readings' | 'aim' | 'support'>): Offered[] {
  const flashes = !support?.includes('no-flash');
  return offerOf(readings, aim).filter(({ step }) => flashes || step !== 'seeing');
}

/** What may be asked of a child: as the path has it and their support allows, without what is not wanted today. A child for whom nothing is flashed has no glances to practise. */
export function openTo(wish: ProposeWish): Weighed[] {
  const all = wish.offer ?? offeredTo(wish);
  return all.filter(({ fact }) => !wish.without?.has(fact)).map((offered) => weigh(offered, wish));
}

/**
 * Facts to ask next, in order: something sure first; then what is worth most, mixed with sure ones so that about four in five come right and never more than three
 * new ones run together; to find out what is known two in three and five; no answer twice in a row. The path (`offerOf`) decides what may be asked at all.
 * @throws where the aim is to judge and `gainOf` is missing
 */
export function proposeFacts(wish: ProposeWish): ProposedFact[] {
  const dayOf = schoolDays(wish.timeZone);
  const left = openTo(wish);
  left.sort((a, b) => b.worth - a.worth || (a.fact < b.fact ? -1 : 1));
  const chosen: Weighed[] = [];
  const asSure = new Set<Weighed>();
  let rights = 0;
  let inARow = 0;
  // To judge, a question is worth what it tells of all facts beside those chosen before it.
  if (wish.aim === 'judge' && wish.gainOf === undefined)
    throw new Error('To judge, the plan has to be told what questions tell.');
  const gain = wish.aim === 'judge' ? wish.gainOf?.(left) : undefined;
  const worthNow = (one: Weighed): number => (gain ? one.worth * gain.of(one) : one.worth);
  const sureness = (one: Weighed): number => {
    if (!one.sure) return one.p - 1;
    const asked = wish.lastAsked.get(one.fact);
    const today = asked !== undefined && dayOf(asked) === dayOf(wish.now);
    return wish.aim === 'judge' ? worthNow(one) : one.p - (today ? 0.5 : 0);
  };
  while (chosen.length < wish.count && left.length > 0) {
    const target = best(left, chosen, worthNow);
    const keepsShare = target !== undefined && (rights + target.right) / (chosen.length + 1) >= RIGHT_SHARE[wish.aim];
    const wantsSure = chosen.length === 0 || inARow >= IN_A_ROW[wish.aim] || !keepsShare;
    const sure = wantsSure ? best(left, chosen, sureness) : undefined;
    const forSureness = sure?.sure === true || chosen.length === 0;
    const next = forSureness ? sure : target;
    if (!next) break;
    if (forSureness) asSure.add(next);
    left.splice(left.indexOf(next), 1);
    inARow = next.sure ? 0 : inARow + 1;
    rights += next.right;
    gain?.ask(next);
    chosen.push(next);
  }
  return chosen.map((one, i) => ({
    fact: one.fact,
    step: one.step,
    whole: one.whole,
    why: asSure.has(one) ? (i === 0 ? 'sure-start' : 'sure-between') : one.why,
    role: asSure.has(one) ? (i === 0 ? 'sure' : 'warm') : 'need',
    form: 'symbols',
    pAutomatic: one.p,
    reading: one.reading,
  }));
}

/** The best of what is left that does not have the answer just given; that one too when there is no other. */
export function best(
  left: readonly Weighed[],
  chosen: readonly Weighed[],
  worth: (one: Weighed) => number,
): Weighed | undefined {
  const last = chosen[chosen.length - 1]?.answer;
  const others = left.filter((one) => one.answer !== last);
  let top: { one: Weighed; worth: number } | undefined;
  for (const one of others.length > 0 ? others : left) {
    const own = worth(one);
    if (top === undefined || own > top.worth) top = { one, worth: own };
  }
  return top?.one;
}
