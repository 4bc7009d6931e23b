import { mistakeOf, type Mistake } from '../mistakes/mistake';
import { USUAL_OPTIONS } from './options';
import { every, playRoutine, rightly } from './play';
import type { Prompt } from './prompt';
import { replyTo, type Reply } from './reply';
import { isRight, type Answered, type Ask, type Routine, type RoutineWish } from './routine';

/** How an answer came out: right, none at all, or wrong, with its name where it has one. */
export type Outcome = 'right' | 'none' | Mistake | 'wrong';

/** What is said to an answer. */
interface Answer {
  readonly outcome: Outcome;
  /** The first answer with this outcome and reply; empty = none. */
  readonly given: string;
  readonly reply: Reply;
}

/** One question of a script: what is in view while it is open and once it is answered, what is said, and what is recorded. */
export interface ScriptLine {
  readonly ask: Ask;
  readonly answers: readonly Answer[];
}

const outcomeOf = (ask: Ask, given: string): Outcome => {
  if (given === '') return 'none';
  if (isRight(ask, given)) return 'right';
  return (ask.fact === null ? null : mistakeOf(ask.fact, given)) ?? 'wrong';
};

/** Every outcome that a question can have, with the reply to it: the right answer first, then each mistake that has a name, another wrong answer, and silence. */
export function answersTo(ask: Ask): Answer[] {
  if (ask.want.by === 'talk') return [];
  const found = new Map<string, Answer>();
  const silence = ask.want.by === 'cut' || ask.checksItself ? [] : [''];
  for (const given of [...every(ask).sort((a, b) => Number(isRight(ask, b)) - Number(isRight(ask, a))), ...silence]) {
    const [outcome, reply] = [outcomeOf(ask, given), replyTo(ask, given)];
    // Of pairs and counters each reply, of the rest each outcome.
    const key = ask.want.by === 'pair' || ask.want.by === 'board' ? reply.say.say : outcome;
    if (!found.has(key)) found.set(key, { outcome, given, reply });
  }
  const place = ({ outcome }: Answer): number => ['right', 'none'].indexOf(outcome) + 1 || 1.5;
  return [...found.values()].sort((a, b) => place(a) - place(b));
}

/** A wish with which every routine shows what it is: the ten frame, the number seven. */
export const SCRIPT_WISH: RoutineWish = {
  layout: 'frame-fives',
  shows: 5,
  zeroToo: false,
  wholeFrom: 7,
  wholeTo: 7,
  warmUp: 'none',
  options: USUAL_OPTIONS,
  things: 'lanterns',
  facts: [],
  sitters: 2,
  workingNumber: 7,
  times: null,
};

/** The script of a routine, everything answered rightly, the same each time: each kind of question where it comes first. */
export function scriptOf(routine: Routine, wish: RoutineWish = SCRIPT_WISH): ScriptLine[] {
  const played: Answered[] = playRoutine(routine, wish, 3, rightly);
  const kinds = played.map(({ ask }) => [ask.prompt.say, ask.note?.say, ask.picture.show, ask.changes].join());
  return played.filter((_, i) => kinds.indexOf(kinds[i]!) === i).map(({ ask }) => ({ ask, answers: answersTo(ask) }));
}

/** What is said at a question, in order, whatever is answered. */
export const saidAt = ({ ask, answers }: ScriptLine): Prompt[] => [
  ask.prompt,
  ...answers.flatMap(({ reply }) => [reply.say, ...(reply.then ? [reply.then] : [])]),
];
