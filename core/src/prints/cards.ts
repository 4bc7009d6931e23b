import { factInPrint, parseFact, type LayoutName } from '../facts/fact';
import { frame, type Direction } from '../layouts/frame';
import { drawCrossedOff, drawDots } from '../layouts/framesDrawn';
import { toSvg, type Drawn } from '../layouts/drawn';
import { scatter } from '../layouts/scatter';
import { drawDomino, drawSpots } from '../layouts/spotsDrawn';
import { drawNumeral, drawSymbols } from '../layouts/symbolsDrawn';
import { seeded } from '../random/random';
import type { Options } from '../routines/options';
import { waysOf, type WaysRule } from '../routines/ways';
import { plain, twoKinds } from './ink';
import type { Ink } from './paper';

/** One card: what is seen, what its back tells, and a name for its file. */
export interface Card {
  readonly name: string;
  readonly front: Drawn;
  readonly back: Drawn;
}

/** What cards are made with. */
export interface CardWish {
  readonly ink: Ink;
  readonly layouts: readonly LayoutName[];
  /** The numbers shown, or the wholes whose pairs are shown. */
  readonly numbers: readonly number[];
  readonly direction: Direction;
  readonly rule: WaysRule;
  readonly gap: Options['gap'];
}

/** The largest number a layout can show. */
export const mostOn = (layout: LayoutName): number => ({ five: 5, dice: 9 })[layout as string] ?? 10;

function quantity(layout: LayoutName, n: number, { ink, direction }: CardWish): Drawn {
  switch (layout) {
    case 'five':
    case 'frame-fives':
    case 'frame-pairs':
      return twoKinds(frame(layout, n, direction), n, ink);
    case 'scatter':
      return plain(drawDots(scatter(seeded(n + 1), n)));
    default:
      return plain(drawSpots(layout, n));
  }
}

/** Quantities in every chosen layout that can show them; the numeral on the back. */
export const flashCards = (wish: CardWish): Card[] =>
  wish.layouts.flatMap((layout) =>
    wish.numbers
      .filter((n) => n <= mostOn(layout))
      .map((n) => ({ name: `${n}-${layout}`, front: quantity(layout, n, wish), back: plain(drawNumeral(n)) })),
  );

/** Every pair of the chosen wholes in two kinds of counters; its sentence on the back. */
export const pairCards = ({ numbers, rule, ink, direction }: CardWish): Card[] =>
  numbers.flatMap((whole) =>
    waysOf(whole, rule).map(([a, b]) => ({
      name: `${a}-and-${b}`,
      front: twoKinds(frame('frame-fives', whole, direction), a, ink),
      back: plain(drawSymbols(`${a} + ${b} = ${whole}`)),
    })),
  );

/** Frames with some counters crossed off, from one to all; the take-away sentence on the back. */
export const crossedOffCards = ({ numbers, direction }: CardWish): Card[] =>
  numbers
    .filter((whole) => whole > 0)
    .flatMap((whole) =>
      Array.from({ length: whole }, (_, i) => i + 1).map((gone) => ({
        name: `${whole}-less-${gone}`,
        front: plain(drawCrossedOff(frame('frame-fives', whole, direction), gone)),
        back: plain(drawSymbols(`${whole} − ${gone} = ${whole - gone}`)),
      })),
    );

/** Every domino of the chosen totals, the larger half first; the total on the back. */
export const dominoes = ({ numbers }: CardWish): Card[] =>
  numbers.flatMap((whole) =>
    waysOf(whole, 'zero')
      .filter(([, larger]) => larger <= 9)
      .map(([smaller, larger]) => ({
        name: `domino-${larger}-${smaller}`,
        front: plain(drawDomino(larger, smaller, false)),
        back: plain(drawNumeral(whole)),
      })),
  );

/** The sentences of a whole with their gaps: after the equals sign only, or anywhere and with the whole on either side. */
export function sentencesOf(whole: number, rule: WaysRule, gap: Options['gap']): string[] {
  const pairs = waysOf(whole, rule);
  const plainly = pairs.flatMap(([a, b]) => [`${a}+${b}`, `${whole}-${b}`]);
  if (gap === 'last') return plainly;
  return [
    ...plainly,
    ...pairs.flatMap(([a, b]) => [`${a}+?=${whole}`, `?+${b}=${whole}`, `${whole}=${a}+?`, `${whole}-?=${a}`]),
  ];
}

/** A sentence with its gap as it is printed: `3 + ? = 8`. */
export const gapped = (fact: string): string => (fact.includes('?') ? factInPrint(fact) : `${factInPrint(fact)} = ?`);

/** Sentence cards; the answer on the back. */
export const sentenceCards = ({ numbers, rule, gap }: CardWish): Card[] =>
  numbers.flatMap((whole) =>
    sentencesOf(whole, rule, gap).map((fact) => ({
      name: gapped(fact).replaceAll('?', 'gap').replaceAll(' ', ''),
      front: plain(drawSymbols(gapped(fact))),
      back: plain(drawNumeral(parseFact(fact).answer)),
    })),
  );

/** A card's side as an SVG of its own. */
export const svgCard = (drawn: Drawn): string => toSvg(drawn, 'card');
