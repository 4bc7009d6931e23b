import { tooShortToTell } from '../facts/counting';
import { isNumberFact, parseFact } from '../facts/fact';
import type { RoutineId } from '../routines/routineIds';
import type { Offered } from './offer';

/** What a session is for: its title, and what most of its questions are about. `whole` is the child's own number. */
export type Need =
  | { readonly need: 'begin' }
  /** What a child knows, from anywhere within ten. */
  | { readonly need: 'finding out' }
  | { readonly need: 'seeing' }
  | { readonly need: 'anchor'; readonly to: 5 | 10 }
  | { readonly need: 'pairs'; readonly whole: number }
  | { readonly need: 'undoing'; readonly whole: number };

/** Equal needs have equal names. */
export const nameOf = (need: Need): string =>
  need.need === 'anchor' ? `anchor ${need.to}` : 'whole' in need ? `${need.need} ${need.whole}` : need.need;

/** The number that a need is at: amounts are seen up to about five first. */
function numberOf(need: Need): number {
  if (need.need === 'anchor') return need.to;
  return 'whole' in need ? need.whole : 5;
}
/** Seeing goes with what is done with numbers only where nothing else is near. */
const kindOf = ({ need }: Need): number => (need === 'begin' || need === 'seeing' ? 0 : 1);
const OTHER_WAY = 1;
const OTHER_KIND = 3;

/** How far apart two needs are on the path: 0 the same; the difference of their numbers, and more where they are asked in another way. To find out what is known goes with nothing else. */
export function apart(a: Need, b: Need): number {
  if (nameOf(a) === nameOf(b)) return 0;
  if (a.need === 'finding out' || b.need === 'finding out') return Infinity;
  const way = a.need === b.need ? 0 : kindOf(a) === kindOf(b) ? OTHER_WAY : OTHER_KIND;
  return Math.abs(numberOf(a) - numberOf(b)) + way;
}

/** First shows of a child who was never asked: small amounts on a five frame. */
const FIRST_SHOWS = 5;

/** True when a question is at a need. */
export function isAt(need: Need, text: string): boolean {
  const fact = parseFact(text);
  switch (need.need) {
    case 'begin':
      return text.startsWith('show:') && fact.answer <= FIRST_SHOWS && text.endsWith(':five');
    case 'finding out':
      return true;
    case 'seeing':
      return fact.kind === 'show';
    case 'anchor':
      return fact.kind === 'missing' && fact.whole === need.to;
    case 'pairs':
      return isNumberFact(fact) && (fact.kind === 'add' || fact.kind === 'bond') && fact.whole === need.whole;
    case 'undoing':
      return isNumberFact(fact) && (fact.kind === 'subtract' || fact.kind === 'missing') && fact.whole === need.whole;
  }
}

/** Questions of a session that time cannot tell from counting: more only where there are no others. */
export const SHORT_ONES = 1;
export const isShort = (text: string): boolean => {
  const fact = parseFact(text);
  return isNumberFact(fact) && tooShortToTell(fact);
};

/** A child who works on a larger number than this has the pairs of five behind them. */
const FIVE_UNTIL = 6;

/** Needs that the questions on offer allow, in the order of the path: lowest first. */
export function needsOf(offered: readonly Offered[], number: number): Need[] {
  const has = (need: Need): boolean => offered.some(({ fact }) => isAt(need, fact));
  const undoing = [number, number - 1].map((whole): Need => ({ need: 'undoing', whole })).find(has);
  const all: Need[] = [
    { need: 'seeing' },
    ...(number <= FIVE_UNTIL ? [{ need: 'anchor', to: 5 } as const] : []),
    { need: 'pairs', whole: number },
    { need: 'anchor', to: 10 },
    ...(undoing ? [undoing] : []),
  ];
  return all.filter(has);
}

/** Routines that suit a need: first the one that asks it as planned, then with things, with pictures, with numbers alone. */
export function routinesFor(need: Need): RoutineId[] {
  switch (need.need) {
    case 'begin':
      return ['flash-and-say', 'learn-frame', 'working-number'];
    case 'finding out':
      return ['flash-and-say', 'sums'];
    case 'seeing':
      return ['flash-and-say', 'flash-and-build'];
    case 'anchor':
      return need.to === 5 ? ['to-five', 'folded-fingers'] : ['hide-and-picture', 'ten-card', 'folded-fingers'];
    case 'pairs':
      return ['part-whole', 'one-cut', 'all-the-ways', 'sums'];
    case 'undoing':
      return ['take-away', 'part-whole', 'crossed-off', 'family'];
  }
}
