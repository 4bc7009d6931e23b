import { parseFact } from '../facts/fact';
import { schoolDays } from '../time/schoolDay';
import { workingNumber } from './workingNumber';
import { isAt, isShort, needsOf, SHORT_ONES, type Need } from './need';
import { offerOf, sumsOf } from './offer';
import { helpAt, helpWith, numberToPlan, type HelpLevel } from './place';
import type { Form } from '../routines/routine';
import type { Support } from '../routines/support';
import { standingOf } from './standing';
import {
  best,
  offeredTo,
  openTo,
  proposeFacts,
  type ProposedFact,
  type ProposeWish,
  type Role,
  type Weighed,
} from './propose';

/** What one child is asked in a session, and for what need. */
export interface ChildSession {
  readonly need: Need;
  /** Where a smaller number than the child's own is taken apart: how many of its sums were asked, and how many of those are known. */
  readonly behind?: { readonly asked: number; readonly known: number };
  readonly facts: readonly ProposedFact[];
}

/** Of a session's questions at least this share is at its need; about a quarter is known. */
const NEED_SHARE = 5 / 8;
const KNOWN_SHARE = 1 / 4;
/** Questions that a need is judged by when needs are compared. */
const COMPARED = 5;
/** A need that was not asked for this many days weighs twice as much as one of today. */
const WAITED_DAYS = 14;
/** A child who was never asked begins within this. */
const FIRST_SMALL = 3;
/** Likely enough to come right. */
const SURE_ENOUGH = 0.75;

/** The need with most to gain: by the mean value of its best questions, more the longer none of them was asked; the earlier on the path when equal. */
function bestNeed(wish: ProposeWish, weighed: readonly Weighed[], number: number): Need {
  const dayOf = schoolDays(wish.timeZone);
  const worth = (need: Need): number => {
    const own = weighed.filter(({ fact }) => isAt(need, fact));
    const top = own
      .map((one) => one.worth)
      .sort((a, b) => b - a)
      .slice(0, COMPARED);
    const last = Math.max(...own.map(({ fact }) => wish.lastAsked.get(fact) ?? -Infinity));
    const days = last === -Infinity ? WAITED_DAYS : Math.min(WAITED_DAYS, dayOf(wish.now) - dayOf(last));
    return ((1 + days / WAITED_DAYS) * top.reduce((sum, one) => sum + one, 0)) / COMPARED;
  };
  const [best] = needsOf(weighed, number)
    .map((need) => ({ need, worth: worth(need) }))
    .sort((a, b) => b.worth - a.worth);
  return best?.need ?? { need: 'seeing' };
}

/**
 * Questions at a need, the most valuable first, without the same answer twice running where there is another. Of those too short for time to tell there are at most `shortOnes`, unless the need has
 * no others: the best of the others are asked twice instead, and the session may be shorter than wanted.
 */
function atNeed(weighed: readonly Weighed[], need: Need, count: number, shortOnes: number): Weighed[] {
  const own = weighed.filter(({ fact }) => isAt(need, fact)).sort(byWorth);
  const lasting = own.filter(({ fact }) => !isShort(fact));
  if (lasting.length === 0) return varied(own).slice(0, count);
  const short = own.filter(({ fact }) => isShort(fact)).slice(0, shortOnes);
  return [...varied(lasting), ...short, ...lasting].slice(0, count);
}
function varied(inOrderOfWorth: readonly Weighed[]): Weighed[] {
  const left = [...inOrderOfWorth];
  const chosen: Weighed[] = [];
  while (left.length > 0) {
    const next = best(left, chosen, (one) => -left.indexOf(one))!;
    left.splice(left.indexOf(next), 1);
    chosen.push(next);
  }
  return chosen;
}
/** Those that time can tell, where there are any. */
const longFirst = (all: readonly Weighed[]): readonly Weighed[] => {
  const long = all.filter(({ fact }) => !isShort(fact));
  return long.length > 0 ? long : all;
};
const byWorth = (a: Weighed, b: Weighed): number => b.worth - a.worth || (a.fact < b.fact ? -1 : 1);

/**
 * A child's session to practise: one need, most of its questions at that need and the child's own number, a quarter of them known and kept warm, and first of all
 * one that comes right. A child who was never asked begins with small amounts on a five frame. The same all through a day of the school.
 * @param wish `count` is the number of questions; `aim` is to practise
 * @param forNeed the need; the one with most to gain when not given
 */
export function childSession(wish: ProposeWish, forNeed?: Need): ChildSession {
  if (!wasAsked(wish)) return firstSession(wish);
  const weighed = openTo(wish);
  const need = forNeed ?? bestNeed(wish, weighed, numberToPlan(workingNumber(wish.readings)));
  const away = weighed.filter(({ fact }) => !isAt(need, fact));
  // Only what is known is kept warm; where nothing is, the first question is the surest there is.
  const known = longFirst(away.filter(({ reading }) => standingOf(reading) === 'known').sort(byWorth));
  const surest = known.length > 0 ? known : longFirst(away.filter(({ p }) => p >= SURE_ENOUGH));
  const knownCount = Math.min(known.length, Math.max(1, Math.round(KNOWN_SHARE * wish.count)));
  const needCount = Math.max(Math.ceil(NEED_SHARE * wish.count), wish.count - knownCount);
  const sure = [...surest].sort((a, b) => b.p - a.p)[0];
  const warm = known.filter((one) => one !== sure).slice(0, Math.max(0, knownCount - 1));
  const shortOnes = Math.max(
    0,
    SHORT_ONES - [...(sure ? [sure] : []), ...warm].filter(({ fact }) => isShort(fact)).length,
  );
  const targets = atNeed(weighed, need, needCount, shortOnes);
  const behind = sumsBehind(wish, need);
  return {
    need,
    ...(behind && { behind }),
    facts: inOrder(sure, warm, targets, formsOf(helpAt(weighed, need), targets.length, wish.support)).slice(
      0,
      wish.count,
    ),
  };
}

/** Why a smaller number is taken apart than the child's own: how its sums stand. */
function sumsBehind({ readings }: ProposeWish, need: Need): ChildSession['behind'] | null {
  if (need.need !== 'undoing' || need.whole === workingNumber(readings).number) return null;
  return sumsOf(readings, need.whole);
}

/** How the questions of a need are put: how many come with the picture in view, and how the others are put. What is not flashed stays in view. */
function formsOf(
  help: HelpLevel,
  count: number,
  support: readonly Support[] = [],
): { readonly pictures: number; readonly then: Form } {
  if (support.includes('no-flash') && help !== 'symbols') return { pictures: count, then: 'picture' };
  if (help === 'symbols') return { pictures: 0, then: 'symbols' };
  const inView = { objects: count, picture: Math.floor(count / 2), remembered: 0 }[help];
  return { pictures: inView, then: 'remembered' };
}

/** The opening question, then those of the need with the known ones spread between them; no answer twice in a row where that can be helped. */
function inOrder(
  sure: Weighed | undefined,
  warm: readonly Weighed[],
  targets: readonly Weighed[],
  formed: ReturnType<typeof formsOf>,
): ProposedFact[] {
  const chosen: { one: Weighed; role: Role }[] = sure ? [{ one: sure, role: 'sure' }] : [];
  const left = [...targets];
  const between = Math.ceil(targets.length / (warm.length + 1));
  const waiting = [...warm];
  while (left.length > 0 || waiting.length > 0) {
    const sinceWarm = chosen.length - 1 - chosen.map(({ role }) => role).lastIndexOf('warm');
    const isWarm = waiting.length > 0 && (left.length === 0 || sinceWarm > between);
    const pool = isWarm ? waiting : left;
    const next = best(
      pool,
      chosen.map(({ one }) => one),
      (one) => -pool.indexOf(one),
    )!;
    pool.splice(pool.indexOf(next), 1);
    chosen.push({ one: next, role: isWarm ? 'warm' : 'need' });
  }
  let pictured = formed.pictures;
  return chosen.map(({ one, role }) => ({
    fact: one.fact,
    step: one.step,
    whole: one.whole,
    why: role === 'sure' ? 'sure-start' : role === 'warm' && one.why !== 'fading' ? 'sure-between' : one.why,
    role,
    form: role !== 'need' ? 'symbols' : pictured-- > 0 ? 'picture' : formed.then,
    pAutomatic: one.p,
    reading: one.reading,
  }));
}

const BEGIN: Need = { need: 'begin' };
const wasAsked = ({ readings }: ProposeWish): boolean => readings.some((r) => r.responses > 0);

/**
 * To find out what is known: questions from near the child's number. What nothing speaks for is put with a look at its picture, which is judged; the rest in symbols. A child who was never asked begins
 * as with any aim.
 */
export function findingOut(wish: ProposeWish): ChildSession {
  if (!wasAsked(wish)) return firstSession({ ...wish, aim: 'practise' });
  const pictured = (fact: string): boolean =>
    !wish.support?.includes('no-flash') && helpWith(offered, fact) !== 'symbols';
  const offered = offeredTo(wish);
  const facts = proposeFacts({ ...wish, offer: offered });
  return {
    need: { need: 'finding out' },
    facts: facts.map((one) => (pictured(one.fact) ? { ...one, form: 'remembered' } : one)),
  };
}

function firstSession(wish: ProposeWish): ChildSession {
  const shows = offerOf(wish.readings, wish.aim).filter(({ fact }) => isAt(BEGIN, fact));
  const proposed = proposeFacts({ ...wish, offer: shows });
  // Within three first: nobody fails at the very first look.
  const small = ({ fact }: ProposedFact): boolean => parseFact(fact).answer <= FIRST_SMALL;
  const facts = [...proposed.filter(small), ...proposed.filter((one) => !small(one))];
  return { need: BEGIN, facts: facts.map((fact, i) => ({ ...fact, role: i === 0 ? 'sure' : 'need' })) };
}
