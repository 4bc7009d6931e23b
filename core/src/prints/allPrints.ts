import { LAYOUTS, parseFact, type LayoutName } from '../facts/fact';
import type { Options } from '../routines/options';
import type { Caution, Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import {
  crossedOffCards,
  dominoes,
  flashCards,
  gapped,
  pairCards,
  sentenceCards,
  sentencesOf,
  type Card,
  type CardWish,
} from './cards';
import { CARD_SIZES, cardPages, type CardSize } from './grid';
import { matPage, type Mat } from './mats';
import { label, MARGIN_MM, pageOf, sheetOf, type Ink, type PaperName, type PrintPage } from './paper';
import { allTheWays, fillAndWrite } from './writing';

export type PrintName = keyof Catalogue['prints']['names'];

/** What a print asks for beside its paper; ink where two kinds of counters, or colours, are drawn. */
export type Needs =
  | 'layouts'
  | 'numbers'
  | 'mat'
  | 'size'
  | 'backs'
  | 'answers'
  | 'ink'
  | 'child'
  | 'support'
  | 'children';

interface Entry {
  readonly needs: readonly Needs[];
  readonly caution: Caution | null;
}

/** What each print asks for and brings with it, in the order in which they are offered. */
export const PRINTS = {
  'flash-cards': {
    needs: ['layouts', 'numbers', 'size', 'backs', 'ink'],
    caution: 'flash',
  },
  'pair-cards': {
    needs: ['numbers', 'size', 'backs', 'ink'],
    caution: null,
  },
  'crossed-off-cards': {
    needs: ['numbers', 'size', 'backs'],
    caution: null,
  },
  dominoes: {
    needs: ['numbers', 'size', 'backs'],
    caution: null,
  },
  'sentence-cards': {
    needs: ['numbers', 'size', 'backs', 'answers'],
    caution: null,
  },
  mats: {
    needs: ['mat'],
    caution: 'objects',
  },
  'fill-and-write': {
    needs: ['numbers', 'answers', 'ink'],
    caution: null,
  },
  'all-the-ways': {
    needs: ['numbers', 'answers'],
    caution: null,
  },
  'home-sheet': {
    needs: ['child', 'ink'],
    caution: 'objects',
  },
  'hand-over': {
    needs: ['child', 'support'],
    caution: null,
  },
  evening: {
    needs: ['child', 'support'],
    caution: 'objects',
  },
  'class-hand-over': {
    needs: ['support'],
    caution: null,
  },
  'group-sheet': {
    needs: ['children'],
    caution: null,
  },
} as const satisfies Record<PrintName, Entry>;
export const PRINT_NAMES = Object.keys(PRINTS) as PrintName[];

export interface PrintWish {
  readonly what: PrintName;
  readonly paper: PaperName;
  readonly ink: Ink;
  readonly size: CardSize;
  readonly cut: boolean;
  readonly backs: boolean;
  readonly answers: boolean;
  readonly layouts: readonly LayoutName[];
  readonly numbers: readonly number[];
  readonly mat: Mat;
}

/** What the class has chosen. */
interface ClassWays {
  readonly words: Words;
  readonly options: Options;
  readonly say: Catalogue;
}

const cardWish = ({ ink, layouts, numbers }: PrintWish, { options }: ClassWays): CardWish => ({
  ink,
  layouts: LAYOUTS.filter((layout) => layouts.includes(layout)),
  numbers: [...new Set(numbers)].sort((a, b) => a - b),
  direction: options.direction,
  rule: options.rule,
  gap: options.gap,
});

const DECKS: Partial<Record<PrintName, (wish: CardWish) => Card[]>> = {
  'flash-cards': flashCards,
  'pair-cards': pairCards,
  'crossed-off-cards': crossedOffCards,
  dominoes,
  'sentence-cards': sentenceCards,
};

/** The cards of a print; none where it is no deck. */
export const cardsOf = (wish: PrintWish, ways: ClassWays): Card[] => DECKS[wish.what]?.(cardWish(wish, ways)) ?? [];

/** Sentences with their answers, column by column: the key to a deck of sentence cards. */
function answerKey(wish: PrintWish, ways: ClassWays): PrintPage[] {
  const { numbers, rule, gap } = cardWish(wish, ways);
  const lines = numbers
    .flatMap((whole) => sentencesOf(whole, rule, gap))
    .map((fact) => `${gapped(fact).replace('?', '__')}    ${parseFact(fact).answer}`);
  const sheet = sheetOf(wish.paper);
  const [columns, step] = [3, 6];
  const rows = Math.floor((sheet.height - 60) / step);
  const pages: PrintPage[] = [];
  for (let from = 0; from < lines.length; from += columns * rows) {
    const page = lines
      .slice(from, from + columns * rows)
      .map((one, i) =>
        label(
          MARGIN_MM + (Math.floor(i / rows) * (sheet.width - 2 * MARGIN_MM)) / columns,
          36 + (i % rows) * step,
          4,
          one,
        ),
      );
    pages.push(pageOf(sheet, label(MARGIN_MM, 20, 7, ways.say.prints.sheet.answers) + page.join('')));
  }
  return pages;
}

/**
 * The pages of a print that is drawn: cards, mats, sheets. The others (home sheet, parents' evening, hand-overs, group sheet) are words about children and made where those are
 * known: `homeSheet`, `evening`, `handOver`, `classHandOver`, `groupSheet`.
 */
export function drawnPages(wish: PrintWish, ways: ClassWays): PrintPage[] {
  const { words, options, say } = ways;
  const { paper, ink, answers } = wish;
  const { numbers } = cardWish(wish, ways);
  const writing = { paper, ink, direction: options.direction, rule: options.rule, words, answers, say };
  switch (wish.what) {
    case 'mats':
      return [
        matPage(wish.mat, { paper, direction: options.direction, startBox: options.startBox === 'shown', words }),
      ];
    case 'fill-and-write':
      return numbers.filter((n) => n > 0).flatMap((n) => fillAndWrite(n, writing));
    case 'all-the-ways':
      return numbers.filter((n) => n > 0).flatMap((n) => allTheWays(n, writing));
    case 'sentence-cards':
      return [...cardPages(cardsOf(wish, ways), wish), ...(answers ? answerKey(wish, ways) : [])];
    default:
      return cardPages(cardsOf(wish, ways), wish);
  }
}

export const CARD_SIZE_NAMES = Object.keys(CARD_SIZES) as CardSize[];
