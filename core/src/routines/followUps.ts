import type { Picture } from './picture';
import { put, type Ask } from './routine';

/**
 * The questions that suit a number on a frame by fives, its picture in view: below five how many more to five; at five nothing but the row; from six to eight
 * the top row, the row below and all; at nine the empty boxes; then one more and one less. Row questions come only when both rows are in play.
 */
export function followUps(n: number, picture: Picture): Ask[] {
  const seen = (
    fact: string | null,
    say: 'empty-boxes' | 'top-row' | 'lower-row' | 'in-all' | 'one-more' | 'one-less',
    accepts: string | null = null,
  ): Ask =>
    put(
      fact,
      picture,
      { say },
      { aid: 'picture', after: { say: 'thanks' }, accepts: accepts === null ? null : [accepts] },
    );
  const suits: Ask[] = [];
  if (n < 5)
    suits.push(put(`${n}+?=5`, picture, { say: 'how-many-more', to: 5 }, { aid: 'picture', after: { say: 'thanks' } }));
  if (n > 5 && n < 9)
    suits.push(seen(null, 'top-row', '5'), seen(null, 'lower-row', String(n - 5)), seen(`5+${n - 5}`, 'in-all'));
  if (n >= 5 && n <= 9) suits.push(seen(`${n}+?=10`, 'empty-boxes'));
  if (n < 10) suits.push(seen(`${n}+1`, 'one-more'));
  if (n > 0) suits.push(seen(`${n}-1`, 'one-less'));
  return suits;
}
