import { frame, type Direction } from '../layouts/frame';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { twoKinds } from './ink';
import type { Ink } from './paper';
import { heading, line, type Block } from './text';

/**
 * What a family can play at home with one child's working number, in the class's words. It holds no score, no reading, no other child, and nothing that
 * asks for haste.
 */
export function homeSheet({
  nickname,
  number,
  words,
  direction,
  ink,
  say,
}: {
  readonly nickname: string;
  /** What the child works on. */
  readonly number: number;
  readonly words: Words;
  readonly direction: Direction;
  readonly ink: Ink;
  readonly say: Catalogue;
}): Block[] {
  const first = Math.ceil(number / 2);
  const home = say.prints.home;
  return [
    heading(home.title(nickname, number)),
    line(home.inClass(number, first, words)),
    { block: 'drawing', drawn: twoKinds(frame('frame-fives', number, direction), first, ink), widthMm: 75 },
    heading(home.toPlay),
    { block: 'list', items: home.games(number, nickname, words) },
    heading(home.safe),
    { block: 'list', items: home.rules(words, say.cautions.objects) },
  ];
}
