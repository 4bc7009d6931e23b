import { frame, type Direction } from '../layouts/frame';
import type { WorkingNumber } from '../plan/workingNumber';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { twoKinds } from './ink';
import type { Ink } from './paper';
import { heading, line, type Block } from './text';

/** Where nothing was asked yet, play begins with five: small amounts that are seen at a glance. */
const FIRST = 5;

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
  readonly number: WorkingNumber;
  readonly words: Words;
  readonly direction: Direction;
  readonly ink: Ink;
  readonly say: Catalogue;
}): Block[] {
  const n = number.number ?? (number.allKnown ? 10 : FIRST);
  const first = Math.ceil(n / 2);
  const home = say.prints.home;
  return [
    heading(home.title(nickname, n)),
    line(home.inClass(n, first, words)),
    { block: 'drawing', drawn: twoKinds(frame('frame-fives', n, direction), first, ink), widthMm: 75 },
    heading(home.toPlay),
    { block: 'list', items: home.games(n, nickname, words) },
    heading(home.safe),
    { block: 'list', items: home.rules(words, say.cautions.objects) },
  ];
}
