import type { Picture } from './picture';
import { makeAsk, talk, type Ask } from './routine';

type Said = 'empty-boxes' | 'top-row' | 'lower-row' | 'in-all' | 'one-more' | 'one-less';
const seen = (picture: Picture, fact: string, say: Said): Ask =>
  makeAsk(fact, picture, { say }, { aid: 'picture', after: { say: 'thanks' } });

const empties = (n: number, picture: Picture): Ask => seen(picture, `${n}+?=10`, 'empty-boxes');
const oneMore = (n: number, picture: Picture): Ask => seen(picture, `${n}+1`, 'one-more');
const oneLess = (n: number, picture: Picture): Ask => seen(picture, `${n}-1`, 'one-less');

/**
 * The questions that a number on a frame by fives decides, its picture in view: below five how many more to five; at five the whole row, and the empty boxes; from six to nine the top row, the row
 * below, all, and the empty boxes; at ten that it is full, and one less. Row questions come only when both rows are in play.
 */
export function numberDecides(n: number, picture: Picture): Ask[] {
  if (n === 0) return [talk(picture, { say: 'empty' })];
  if (n < 5)
    return [
      makeAsk(`${n}+?=5`, picture, { say: 'how-many-more', to: 5 }, { aid: 'picture', after: { say: 'thanks' } }),
    ];
  if (n === 5) return [talk(picture, { say: 'whole-row' }), empties(n, picture)];
  if (n === 10) return [talk(picture, { say: 'full' }), oneLess(n, picture)];
  return [
    seen(picture, `top:${n}`, 'top-row'),
    seen(picture, `below:${n}`, 'lower-row'),
    seen(picture, `5+${n - 5}`, 'in-all'),
    empties(n, picture),
  ];
}

/** The same on a five frame. */
export const numberDecidesOfFive = (n: number, picture: Picture): Ask[] =>
  n === 5 ? [talk(picture, { say: 'whole-row' }), oneLess(n, picture)] : numberDecides(n, picture);

/** Every question that suits a number: what it decides, one more and one less. */
export const followUps = (n: number, picture: Picture): Ask[] => [
  ...numberDecides(n, picture),
  ...(n < 10 ? [oneMore(n, picture)] : []),
  ...(n > 0 && n < 10 ? [oneLess(n, picture)] : []),
];
