import { factsWithinTen, factText, isNumberFact, parseFact, type Fact, type NumberFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { standingOf } from './standing';
import { workingNumber } from './workingNumber';

export const AIMS = ['judge', 'practise'] as const;
/** To find out what is known, or to practise what is nearly known. */
export type Aim = (typeof AIMS)[number];

/** Where a fact stands on the path, lowest first: what comes earlier is offered earlier. */
export type Step = 'seeing' | 'five anchor' | 'ten anchor' | 'pairs' | 'missing part' | 'take-away';

export interface Offered {
  readonly fact: string;
  readonly step: Step;
  /** Its whole, against the working number: below it, it, or the next one on offer. */
  readonly place: 'below' | 'at' | 'next';
  readonly answer: number;
  /** The whole, or the number seen. */
  readonly whole: number;
  /** Probability that it is known; from its neighbours when it was never read. */
  readonly p: number;
  readonly reading: Reading | null;
}

/** An earlier step is safe, and the next one open, where at least this share of its facts was asked, and of those at least this share is known. */
const ASKED = 0.5;
const SAFE = 0.6;
/** Prior probability of a fact when nothing like it was ever read. */
const UNREAD = { number: 0.25, seeing: 0.5 };
/** To find out what is known, wholes as far as this from the working number are asked, and further ones as soon as little is left to find out about these. */
const NEAR = 2;
/** A fact is as good as found out from this probability on, either way; and this share of those near the number may be open when the next are asked. */
const FOUND_OUT = 0.9;
const LEFT_OPEN = 0.25;
/** First whole for a child who was never asked a pair. */
export const FIRST_NUMBER = 5;

const SHOWS = [1, 2, 3, 4, 5]
  .map((n) => `show:${n}:five`)
  .concat([1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => `show:${n}:frame-fives`));

const FACTS = (['add', 'missing', 'subtract'] as const).flatMap((operation) =>
  factsWithinTen(operation).map((text) => ({ text, fact: parseFact(text) as NumberFact })),
);

/** How far from the number there is something to find out. */
function reachOf(number: number, pOf: (text: string, fact: NumberFact) => number): number {
  let reach = NEAR;
  for (; reach < 10; reach++) {
    const near = FACTS.filter(({ fact }) => Math.abs(fact.whole - number) <= reach).map(({ text, fact }) =>
      pOf(text, fact),
    );
    const open = near.filter((p) => p < FOUND_OUT && p > 1 - FOUND_OUT);
    if (open.length > LEFT_OPEN * near.length) break;
  }
  return reach;
}

const isAnchor = ({ kind, whole }: NumberFact, of: number): boolean => kind === 'missing' && whole === of;

function stepOf(fact: NumberFact): Step {
  if (isAnchor(fact, 5)) return 'five anchor';
  if (isAnchor(fact, 10)) return 'ten anchor';
  if (fact.kind === 'subtract') return 'take-away';
  return fact.kind === 'missing' ? 'missing part' : 'pairs';
}

/** Of the facts of an earlier step, without those that have a part of 0: how many there are, were asked, and are known. */
function behindOf(
  byFact: ReadonlyMap<string, Reading>,
  fits: (fact: NumberFact) => boolean,
): { readonly all: number; readonly asked: number; readonly known: number } {
  const own = FACTS.filter(({ fact }) => fits(fact) && Math.min(...fact.parts) > 0);
  const asked = own.map(({ text }) => standingOf(byFact.get(text))).filter((one) => one !== 'not asked');
  return { all: own.length, asked: asked.length, known: asked.filter((one) => one === 'known').length };
}

const isSumOf = (whole: number) => (fact: NumberFact) => fact.kind === 'add' && fact.whole === whole;

/** How the sums of a number stand: what opens its take-away and missing part. */
export const sumsOf = (
  readings: readonly Reading[],
  whole: number,
): { readonly asked: number; readonly known: number } => {
  const { asked, known } = behindOf(new Map(readings.map((r) => [r.fact, r])), isSumOf(whole));
  return { asked, known };
};

/**
 * The facts that are open to a child: to judge it, all that are near its working number; to practise, by the path: seeing; five anchor before ten anchor; pairs up to its working number, with the
 * next on offer; missing part and take-away of a whole once its sums are safe, by how they stand.
 */
export function offerOf(readings: readonly Reading[], aim: Aim): Offered[] {
  const byFact = new Map(readings.map((r) => [r.fact, r]));
  const found = workingNumber(readings);
  const number = found.number ?? (found.allKnown ? 10 : FIRST_NUMBER);
  const read = readings.flatMap((r) => {
    const fact = parseFact(r.fact);
    return isNumberFact(fact) || fact.kind === 'show'
      ? [{ kind: fact.kind, whole: isNumberFact(fact) ? fact.whole : fact.answer, p: r.pAutomatic }]
      : [];
  });
  const nearby = new Map<string, number>();
  const near = (kind: Fact['kind'], whole: number): number => {
    const name = `${kind} ${whole}`;
    const p = nearby.get(name) ?? meanNear(kind, whole);
    nearby.set(name, p);
    return p;
  };
  const meanNear = (kind: Fact['kind'], whole: number): number => {
    const like = read.filter((r) => r.kind === kind && Math.abs(r.whole - whole) <= 1);
    return like.length === 0
      ? UNREAD[kind === 'show' ? 'seeing' : 'number']
      : like.reduce((sum, r) => sum + r.p, 0) / like.length;
  };
  const pOf = (text: string, fact: NumberFact): number => byFact.get(text)?.pAutomatic ?? near(fact.kind, fact.whole);
  const seeing = SHOWS.map((text): Offered => ({
    fact: text,
    step: 'seeing',
    place: 'at',
    answer: parseFact(text).answer,
    whole: parseFact(text).answer,
    p: byFact.get(text)?.pAutomatic ?? near('show', parseFact(text).answer),
    reading: byFact.get(text) ?? null,
  }));
  const isSafe = (fits: (fact: NumberFact) => boolean): boolean => {
    const { all, asked, known } = behindOf(byFact, fits);
    return asked >= ASKED * all && known >= SAFE * asked;
  };
  /** The pairs of a whole as a part-whole picture: the same knowledge as its sums, asked in another way. */
  const bonds = (whole: number): Offered[] =>
    Array.from({ length: whole - 1 }, (_, i): Offered => {
      const text = `bond:${whole}:${i + 1}`;
      const sum = factText('add', whole, i + 1);
      return {
        fact: text,
        step: 'pairs',
        place: 'at',
        answer: whole - i - 1,
        whole,
        p: byFact.get(text)?.pAutomatic ?? pOf(sum, parseFact(sum) as NumberFact),
        reading: byFact.get(text) ?? null,
      };
    });
  const reach = aim === 'judge' ? reachOf(number, pOf) : 0;
  const fiveSafe = isSafe((fact) => isAnchor(fact, 5));
  const sumsSafe = new Map(Array.from({ length: 11 }, (_, whole) => [whole, isSafe(isSumOf(whole))]));
  return [
    ...seeing,
    ...FACTS.flatMap(({ text, fact }): Offered[] => {
      const step = stepOf(fact);
      const { whole } = fact;
      if (whole < 2) return [];
      const onPath =
        step === 'five anchor' ||
        (step === 'ten anchor'
          ? fiveSafe
          : step === 'pairs'
            ? whole <= number + 1
            : whole <= number + 1 && sumsSafe.get(whole) === true);
      // To find out what is known, everything near the child's number may be asked; to practise, what comes next on the path.
      if (aim === 'judge' && Math.abs(whole - number) > reach) return [];
      const place = whole < number ? 'below' : whole === number ? 'at' : 'next';
      // Pairs with zero are offered only for the working number.
      const idle = place !== 'at' && Math.min(...fact.parts) === 0;
      if (aim === 'practise' && (!onPath || idle)) return [];
      return [
        { fact: text, step, place, answer: fact.answer, whole, p: pOf(text, fact), reading: byFact.get(text) ?? null },
      ];
    }),
    ...(aim === 'practise' ? bonds(number) : []),
  ];
}
