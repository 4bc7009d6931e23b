import { frame, type Direction } from '../layouts/frame';
import { beside } from '../layouts/drawn';
import { drawSymbols, drawWays } from '../layouts/symbolsDrawn';
import { waysOf, type Pair, type WaysRule } from '../routines/ways';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { fitted, places } from './grid';
import { plain, twoKinds } from './ink';
import { INK, label, MARGIN_MM, pageOf, sheetOf, type Ink, type PaperName, type PrintPage } from './paper';

interface WritingWish {
  readonly paper: PaperName;
  readonly ink: Ink;
  readonly direction: Direction;
  readonly rule: WaysRule;
  readonly words: Words;
  readonly say: Catalogue;
  /** Whether a page with the answers follows. */
  readonly answers: boolean;
}

const HEAD_MM = 36;
const ON_PAGE = 8;

/** Title, and a line for the child's nickname; an answer page says that it is one. */
const head = (title: string, width: number, answers: boolean, { say }: WritingWish): string =>
  label(MARGIN_MM, 24, 7, title) +
  (answers
    ? label(width - MARGIN_MM, 14, 5, say.prints.sheet.answersMark, 'end')
    : `<path d="M${width - 82} 14.5h70" stroke="${INK}" stroke-width=".25"/>${label(width - 84, 14, 4, say.prints.sheet.nickname, 'end')}`);

/** *Fill and write*: a frame with one part, the child draws the other and writes it. One whole, eight a page. */
export function fillAndWrite(whole: number, wish: WritingWish): PrintPage[] {
  const sheet = sheetOf(wish.paper);
  const pairs = waysOf(whole, 'turned-zero');
  const title = wish.say.prints.sheet.fillAndWrite(wish.words, whole);
  const page = (some: readonly Pair[], solved: boolean): PrintPage => {
    const all = places(sheet, 1, ON_PAGE, HEAD_MM);
    const lines = some.map(([a, b], i) => {
      const picture = twoKinds(frame('frame-fives', solved ? whole : a, wish.direction), a, wish.ink);
      const line = plain(drawSymbols(solved ? `${a} + ${b} = ${whole}` : `${a} + ? = ${whole}`));
      return fitted(beside([picture, line], 1.2), all[i]!, 0.86);
    });
    return pageOf(sheet, head(title, sheet.width, solved, wish) + lines.join(''));
  };
  const parts = Array.from({ length: Math.ceil(pairs.length / ON_PAGE) }, (_, i) =>
    pairs.slice(i * ON_PAGE, (i + 1) * ON_PAGE),
  );
  return [...parts.map((some) => page(some, false)), ...(wish.answers ? parts.map((some) => page(some, true)) : [])];
}

/** *All the ways*: as many open lines as the counting rule has ways, to be found and then checked for repeats and gaps. */
export function allTheWays(whole: number, wish: WritingWish): PrintPage[] {
  const sheet = sheetOf(wish.paper);
  const ways = waysOf(whole, wish.rule);
  const title = wish.say.prints.sheet.allTheWays(whole);
  const under = label(
    MARGIN_MM,
    31,
    4,
    wish.say.prints.sheet.countedHere(wish.say.options.rule.values[wish.rule], ways.length),
  );
  const [place] = places(sheet, 1, 1, HEAD_MM);
  const rows = Math.max(ways.length, 1);
  const open = ways.map((_, i) => {
    const slot = {
      x: place!.x,
      y: place!.y + (i * place!.height) / Math.max(rows, 8),
      width: place!.width,
      height: place!.height / Math.max(rows, 8),
    };
    return fitted(plain(drawSymbols(`? + ? = ${whole}`)), slot, 0.72);
  });
  const sheetOfWays = pageOf(sheet, head(title, sheet.width, false, wish) + under + open.join(''));
  if (!wish.answers) return [sheetOfWays];
  const solved = fitted(plain(drawWays(whole, ways)), { ...place!, height: place!.height * 0.6 }, 0.9);
  return [sheetOfWays, pageOf(sheet, head(title, sheet.width, true, wish) + under + solved)];
}
