import type { Drawn } from '../layouts/drawn';
import type { Card } from './cards';
import { FOOT_MM, INK, MARGIN_MM, pageOf, sheetOf, type PaperName, type PrintPage, type Sheet } from './paper';

/** How many columns and rows of cards a page has. */
export const CARD_SIZES = {
  large: { columns: 1, rows: 2 },
  middle: { columns: 2, rows: 3 },
  small: { columns: 2, rows: 5 },
} as const;
export type CardSize = keyof typeof CARD_SIZES;

interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Cells of a page of `columns` × `rows`, row by row, below `top` millimetres. */
export function places({ width, height }: Sheet, columns: number, rows: number, top: number = MARGIN_MM): Place[] {
  const [w, h] = [(width - 2 * MARGIN_MM) / columns, (height - top - FOOT_MM) / rows];
  return Array.from({ length: columns * rows }, (_, i) => ({
    x: MARGIN_MM + (i % columns) * w,
    y: top + Math.floor(i / columns) * h,
    width: w,
    height: h,
  }));
}

/** A drawing as large as its place allows, in the middle of it. */
export function fitted(drawn: Drawn, { x, y, width, height }: Place, share = 0.8): string {
  const scale = Math.min((width * share) / drawn.width, (height * share) / drawn.height);
  const [left, top] = [x + (width - drawn.width * scale) / 2, y + (height - drawn.height * scale) / 2];
  return `<g transform="translate(${left.toFixed(3)} ${top.toFixed(3)}) scale(${scale.toFixed(4)})">${drawn.body}</g>`;
}

/** Short lines in the margins where the knife goes, and faint ones between the cards. */
function cutMarks(all: readonly Place[]): string {
  const xs = [...new Set(all.flatMap((p) => [p.x, p.x + p.width]).map((v) => v.toFixed(2)))];
  const ys = [...new Set(all.flatMap((p) => [p.y, p.y + p.height]).map((v) => v.toFixed(2)))];
  const [left, right] = [Math.min(...xs.map(Number)), Math.max(...xs.map(Number))];
  const [top, bottom] = [Math.min(...ys.map(Number)), Math.max(...ys.map(Number))];
  const marks = [
    ...xs.map((x) => `M${x} ${top - 6}v4M${x} ${bottom + 2}v4`),
    ...ys.map((y) => `M${left - 6} ${y}h4M${right + 2} ${y}h4`),
  ];
  const faint = [...xs.map((x) => `M${x} ${top}V${bottom}`), ...ys.map((y) => `M${left} ${y}H${right}`)];
  return (
    `<path class="cut" d="${marks.join('')}" fill="none" stroke="${INK}" stroke-width=".25"/>` +
    `<path d="${faint.join('')}" fill="none" stroke="#b9b2a3" stroke-width=".15" stroke-dasharray="1 1.5"/>`
  );
}

/**
 * Cards on pages. With backs, every page of fronts is followed by one of backs, each line turned round, so that they meet when the paper is turned over its long
 * edge.
 */
export function cardPages(
  cards: readonly Card[],
  {
    paper,
    size,
    cut,
    backs,
  }: { readonly paper: PaperName; readonly size: CardSize; readonly cut: boolean; readonly backs: boolean },
): PrintPage[] {
  const sheet = sheetOf(paper);
  const { columns, rows } = CARD_SIZES[size];
  const all = places(sheet, columns, rows);
  const marks = cut ? cutMarks(all) : '';
  const pages: PrintPage[] = [];
  for (let from = 0; from < cards.length; from += all.length) {
    const some = cards.slice(from, from + all.length);
    const fronts = some.map(({ front }, i) => fitted(front, all[i]!));
    pages.push(pageOf(sheet, marks + fronts.join('')));
    if (!backs) continue;
    const turned = (i: number): Place => all[i - (i % columns) + (columns - 1 - (i % columns))]!;
    pages.push(pageOf(sheet, some.map(({ back }, i) => fitted(back, turned(i), 0.55)).join('')));
  }
  return pages;
}
