import { frame, type Direction } from '../layouts/frame';
import type { WorkingNumber } from '../plan/workingNumber';
import { CAUTION_WORDS, type Words } from '../routines/classWords';
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
}: {
  readonly nickname: string;
  readonly number: WorkingNumber;
  readonly words: Words;
  readonly direction: Direction;
  readonly ink: Ink;
}): Block[] {
  const n = number.number ?? (number.allKnown ? 10 : FIRST);
  const first = Math.ceil(n / 2);
  const sentence = `${first} ${words.plus} ${n - first} ${words.equals} ${n}`;
  return [
    heading(`${nickname} plays with ${n}`),
    line(
      `In class we are looking at the ways to make ${n}, such as “${sentence}”. A few minutes at home, when you both feel like it, help more than a long time.`,
    ),
    { block: 'drawing', drawn: twoKinds(frame('frame-fives', n, direction), first, ink), widthMm: 75 },
    heading('Things to play'),
    {
      block: 'list',
      items: [
        `Hide some. Put ${n} small things on the table and look at them together. Cover some with a cup. How many are under the cup? Lift it and see.`,
        `Look and cover. Put some of them in a row${n > 5 ? ' of five and the rest below' : ''}. Look, cover, and ask: how many did you see? How did you see them?`,
        `Fingers. Show ${n} fingers all at once. Fold some away: how many are folded, how many are still up?`,
        `Break a stick. Join ${n} bricks. Break the stick in two: ${words.part} ${words.plus} ${words.part}. Put it together and break it somewhere else.`,
        `Your turn to ask. Let ${nickname} hide some and ask you. Think aloud, and be wrong now and then.`,
        ...(n > 2 ? [`Keep the small ones warm: now and then the same with ${n - 1} or fewer.`] : []),
      ],
    },
    heading('So that it stays a safe game'),
    {
      block: 'list',
      items: [
        'If things are counted one by one, that is fine: count together, then look again.',
        'No clock, no race, no marks, no comparing with others. Stop while it is still fun.',
        CAUTION_WORDS.objects,
        `Say it in our words: “${words.whole}” for all of them, “${words.part}” for some of them, “${words.plus}” and “${words.equals}”.`,
      ],
    },
  ];
}
