import type { RecordRow } from '@vane/contract';
import {
  applySupport,
  explanationsFor,
  replyTo,
  type Aid,
  type AnswerMode,
  type Ask,
  type Explanation,
  type Help,
  type Reply,
  type Slip,
} from '@vane/core';
import { NO_MARKS, type Marks } from './marks';
import type { SittingWish } from './sittingWish';
import { beginTurns, sitterOf, turnOf, type Turns } from './turns';

/** Where the adult is: `ready` for the show, `asking` the child, `stopped` (it spoke: which number?), `answered`, `done`. */
export type Moment = 'ready' | 'asking' | 'stopped' | 'answered' | 'done';

/** A sitting at one moment. */
export interface SittingState {
  readonly id: string;
  readonly moment: Moment;
  readonly line: Turns;
  readonly paused: boolean;
  /** Nobody has joined the other screen yet. */
  readonly waiting: boolean;
  /** The ready is running: the show comes by itself. */
  readonly coming: boolean;
  /** What help stands beside the show, as the record names it. */
  readonly aid: Aid;
  /** What was shown last, and to whom. */
  readonly shown: { readonly child: string; readonly ask: Ask } | null;
  /** What was shown last was seen, though nobody answered: shown again, it is a second look. */
  readonly seenAlready: boolean;
  /** The show that is on is spoiled. */
  readonly spoiled: boolean;
  /** The first part of a pair that waits for its second. */
  readonly firstPart: string | null;
  /** The answer that stands, recorded or not. */
  readonly given: string | null;
  /** How counters were laid against the rule, when they were. */
  readonly slip: Slip | null;
  /** Its row while it can still be changed: until the next show. */
  readonly row: RecordRow | null;
  readonly marks: Marks;
  /** The last rows, the newest first: they can still be changed. */
  readonly open: readonly RecordRow[];
  /** The question before this one, while it can be gone back to. */
  readonly before: { readonly row: RecordRow | null; readonly given: string | null } | null;
  /** The answer that stands belongs to a trial that is over on the stage. */
  readonly reopened: boolean;
  /** An answer is entered anew, without a trial: the one it replaces. */
  readonly replacing: { readonly row: RecordRow | null } | null;
  /** Number facts that were answered aloud, by whom and when (ms since 1970). */
  readonly heard: readonly { readonly fact: string; readonly child: string; readonly at: number }[];
  /** Children seen counting while the class answers this question together. */
  readonly chips: ReadonlyMap<string, RecordRow>;
}

export const beginSitting = (id: string, wish: SittingWish): SittingState => ({
  id,
  moment: 'ready',
  line: beginTurns(wish.children, wish.turns),
  paused: false,
  waiting: true,
  coming: false,
  aid: 'none',
  shown: null,
  seenAlready: false,
  spoiled: false,
  firstPart: null,
  given: null,
  slip: null,
  row: null,
  marks: NO_MARKS,
  open: [],
  before: null,
  reopened: false,
  replacing: null,
  heard: [],
  chips: new Map(),
});

export const askOf = ({ line }: SittingState): Ask => turnOf(line).ask;
/** How the questions are put to the child whose turn it is. */
export const supportedFor = ({ settings }: SittingWish, { line }: SittingState) =>
  applySupport(settings, sitterOf(line).support ?? []);

/** How this question is answered. */
export function modeOf(wish: SittingWish, state: SittingState): AnswerMode {
  const { want, aid } = askOf(state);
  if (want.by === 'board' || want.by === 'cut') return 'build';
  return aid === 'objects' ? 'show' : supportedFor(wish, state).answerMode;
}

/** An answer stands, or stood last: void and whose it was are open. */
export const canAmend = ({ moment, row }: SittingState): boolean =>
  (moment === 'answered' || moment === 'ready') && row !== null;

/** Signs: from the moment of the show until the next one. */
export const canMark = ({ choral }: SittingWish, state: SittingState): boolean =>
  canAmend(state) || (!choral && ['asking', 'stopped', 'answered'].includes(state.moment));

export const canUndo = ({ firstPart, moment, given, before }: SittingState): boolean =>
  firstPart !== null ||
  (moment === 'answered' && given !== null) ||
  ((moment === 'ready' || moment === 'asking') && before !== null);

export const canLookAgain = ({ settings }: SittingWish, state: SittingState): boolean =>
  askOf(state).flash && settings.secondLook && state.moment !== 'ready' && !state.reopened;

/** What the adult says next, and what would help. What all said together was neither right nor wrong. */
export const replyOf = ({ choral }: SittingWish, state: SittingState): Reply =>
  choral ? { say: askOf(state).after, then: null, helps: [] } : replyTo(askOf(state), state.given ?? '', state.slip);

/** Help is open: the first answer stands and was not right. Showing it again has a place of its own. */
export const helpsOf = (wish: SittingWish, state: SittingState): readonly Help[] =>
  allHelps(wish, state).filter((help) => help !== 'look-again');
export const helpsAgain = (wish: SittingWish, state: SittingState): boolean =>
  allHelps(wish, state).includes('look-again');
const allHelps = (wish: SittingWish, state: SittingState): readonly Help[] =>
  state.moment === 'answered' && state.row?.void === '' ? replyOf(wish, state).helps : [];

/** How the child may have done it: open once their answer was right. */
export const explanationsOf = (state: SittingState): readonly Explanation[] =>
  state.row?.outcome === 'correct' && state.row.void === '' && state.row.aid === 'none' && canAmend(state)
    ? explanationsFor(state.row.fact)
    : [];
