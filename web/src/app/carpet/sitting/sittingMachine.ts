import type { RecordRow } from '@vane/contract';
import {
  adultMarks,
  boardAfter,
  builtNumber,
  helpPicture,
  isRight,
  slipOf,
  turnAround,
  type Aid,
  type Ask,
  type Board,
  type Explanation,
  type Flag,
  type Help,
  type Measured,
  type Picture,
  type Sign,
} from '@vane/core';
import type { StageShow } from '../measurement/stageRunner';
import {
  answerTakenBack,
  marksOf,
  NO_MARKS,
  observedOf,
  withExplanation,
  withFiner,
  withHelp,
  withSign,
  type FinerSign,
  type Marks,
} from './marks';
import { again, answerRow, CHORAL, choralRow } from './rows';
import {
  askOf,
  canAmend,
  canLookAgain,
  canMark,
  canUndo,
  explanationsOf,
  helpsAgain,
  helpsOf,
  modeOf,
  supportedFor,
  type SittingState,
} from './sittingState';
import type { SittingWish } from './sittingWish';
import { advance, goLater, handTo, sitterOf, stepBack, takeOver, toggleAway, turnOf, type Sitter } from './turns';

/** What is done to a sitting: by the adult or a child, by its stage, or by its clock. */
export type Gesture =
  | { readonly type: 'ready' | 'joined' | 'ready-over' | 'by-hand' | 'lost' | 'stopped' }
  | { readonly type: 'go-on'; readonly at: number }
  | { readonly type: 'digit'; readonly n: number; readonly at: number }
  | { readonly type: 'answer'; readonly given: string; readonly at: number }
  | { readonly type: 'no-answer' | 'second-look' | 'undo' | 'spoil' | 'pause' | 'next' | 'go-later' | 'end' }
  | { readonly type: 'help'; readonly help: Help }
  | { readonly type: 'place'; readonly place: number }
  | { readonly type: 'sign'; readonly sign: Sign }
  | { readonly type: 'finer'; readonly sign: FinerSign }
  | { readonly type: 'explanation'; readonly explanation: Explanation }
  | { readonly type: 'mark-earlier'; readonly id: string; readonly change: (marks: Marks) => Marks }
  | { readonly type: 'was-another' | 'chip'; readonly child: Sitter }
  | { readonly type: 'away'; readonly child: string }
  | { readonly type: 'disturbed'; readonly why: Extract<Flag, 'hidden' | 'blurred'> }
  | {
      readonly type: 'answered';
      readonly given: string;
      readonly result: Measured;
      readonly shownAt: number;
      readonly within: number;
    };

/** What is to be done outside: on the stage, with the clock of the ready, and in the record. */
export type SittingEffect =
  | { readonly do: 'begin'; readonly show: StageShow }
  | { readonly do: 'stop'; readonly at: number }
  | { readonly do: 'answer'; readonly given: string; readonly at: number }
  | { readonly do: 'disturbed'; readonly why: Extract<Flag, 'hidden' | 'blurred' | 'paused'> }
  | { readonly do: 'lay'; readonly picture: Picture }
  | { readonly do: 'no-answer' | 'take-back' | 'abandon' }
  | { readonly do: 'wait'; readonly ms: number }
  | { readonly do: 'stop-waiting' }
  | { readonly do: 'keep'; readonly row: RecordRow }
  | { readonly do: 'close'; readonly except: readonly string[] }
  | { readonly do: 'hold' | 'release' };

/** What a gesture meets: the stage, the board that a child builds on, the time (ms since 1970), and an id for a new row. */
export interface Surroundings {
  /** Somebody can see the stage; null = there is none yet. */
  readonly here: boolean | null;
  /** An answer would be taken now. */
  readonly asking: boolean;
  readonly board: Board | null;
  readonly now: number;
  readonly newId: string;
}

/** What another child answered within this time is still in the ear: milliseconds. */
const IN_EAR_MS = 3 * 60_000;
/** So many answers of a session can still be changed. */
const STILL_OPEN = 5;

type Step = readonly [SittingState, readonly SittingEffect[]];

/** One step and, on its state, another. */
const and = ([state, effects]: Step, next: (state: SittingState) => Step): Step => {
  const [then, more] = next(state);
  return [then, [...effects, ...more]];
};

/** Forgets the last answer: it is closed, taken back, or another one is about to come. */
const NO_ANSWER = { row: null, given: null, slip: null } as const;

/** Keeps a row among the last ones, in its place where it is one of them. */
function kept(state: SittingState, row: RecordRow): Step {
  const known = state.open.some((one) => one.response_id === row.response_id);
  const open = known
    ? state.open.map((one) => (one.response_id === row.response_id ? row : one))
    : [row, ...state.open].slice(0, STILL_OPEN);
  return [{ ...state, open }, [{ do: 'keep', row }]];
}

/** What can be done to one sitting. Every method is one gesture, or a part of several. */
class Steps {
  constructor(
    private readonly wish: SittingWish,
    private readonly near: Surroundings,
  ) {}

  take(state: SittingState, gesture: Gesture): Step {
    switch (gesture.type) {
      case 'ready':
        return this.#ready(state);
      case 'joined':
        return state.moment === 'ready' ? this.#ready(state) : [state, []];
      case 'ready-over':
        return this.#show({ ...state, coming: false }, askOf(state).aid);
      case 'by-hand':
        return state.moment === 'ready' ? this.#byHand(state) : [state, []];
      case 'stopped':
        return [{ ...state, moment: 'stopped' }, []];
      case 'lost':
        return this.#lost(state);
      case 'answered':
        return this.#answered(state, gesture);
      case 'go-on':
        return this.#goOn(state, gesture.at);
      case 'digit':
        return this.#digit(state, gesture.n, gesture.at);
      case 'answer':
        return this.#answer(state, gesture.given, gesture.at);
      case 'no-answer':
        return this.#noAnswer(state);
      case 'second-look':
        return this.#secondLook(state);
      case 'undo':
        return this.#undo(state);
      case 'spoil':
        return this.#spoil(state);
      case 'pause':
        return this.#pause(state);
      case 'next':
        return state.moment === 'answered' ? this.#next(state) : [state, []];
      case 'go-later':
        return state.moment === 'ready' ? this.#ready({ ...state, line: goLater(this.wish, state.line) }) : [state, []];
      case 'end':
        return this.#end(state);
      case 'help':
        return this.#help(state, gesture.help);
      case 'place':
        return this.#place(state, gesture.place);
      case 'sign':
        return this.#markIfOpen(state, (marks) => withSign(marks, gesture.sign));
      case 'finer':
        return this.#markIfOpen(state, (marks) => withFiner(marks, gesture.sign));
      case 'explanation':
        return this.#markIfOpen(state, (marks) => withExplanation(marks, gesture.explanation));
      case 'mark-earlier':
        return this.#markEarlier(state, gesture.id, gesture.change);
      case 'was-another':
        return this.#wasAnother(state, gesture.child);
      case 'chip':
        return this.#chip(state, gesture.child);
      case 'away':
        return this.#away(state, gesture.child);
      case 'disturbed':
        return [state, [{ do: 'disturbed', why: gesture.why }]];
    }
  }

  /** The ready before a show, on an empty stage; where a time is set for it, the show comes by itself when it is over. A stage that nobody has joined yet is waited for. */
  #ready(before: SittingState): Step {
    return and([before, [{ do: 'abandon' }]], (state) => this.#await(state));
  }
  #await(before: SittingState): Step {
    const state: SittingState = { ...before, moment: 'ready', coming: false, waiting: this.near.here !== true };
    const { screens } = this.wish.settings;
    const { readyMs, answerMode } = supportedFor(this.wish, state);
    // A child alone shows their first question themselves; and a voice key has to be chosen first.
    const first = state.shown?.child !== sitterOf(state.line).id;
    const byHand = (screens === 'alone' && first) || (answerMode === 'voice' && state.shown === null);
    if (readyMs === null || byHand || state.paused || state.waiting) return [state, [{ do: 'stop-waiting' }]];
    return [{ ...state, coming: true }, [{ do: 'stop-waiting' }, { do: 'wait', ms: readyMs }]];
  }
  #byHand(state: SittingState): Step {
    return [{ ...state, coming: false }, [{ do: 'stop-waiting' }]];
  }

  /** How long the show is to be seen; null = until the answer. */
  #askedMs(state: SittingState): number | null {
    return askOf(state).flash ? supportedFor(this.wish, state).exposureMs : null;
  }

  #show(state: SittingState, aid: Aid): Step {
    const ask = askOf(state);
    const shown: SittingState = {
      ...state,
      ...NO_ANSWER,
      moment: 'asking',
      coming: false,
      marks: NO_MARKS,
      aid: state.seenAlready && ask.flash ? 'second-look' : aid,
      seenAlready: false,
      shown: { child: sitterOf(state.line).id, ask },
    };
    const show = { ask, exposureMs: this.#askedMs(state), answerMode: modeOf(this.wish, state) };
    return [shown, [{ do: 'stop-waiting' }, { do: 'hold' }, { do: 'begin', show }]];
  }

  /** Space: shows, stops the clock, or goes on, whichever is next. */
  #goOn(state: SittingState, at: number): Step {
    const { moment } = state;
    const { want } = askOf(state);
    if (state.paused) return [state, []];
    if (moment === 'ready') return state.waiting ? [state, []] : this.#show(state, askOf(state).aid);
    if (moment === 'answered') return this.#next(state);
    if (moment !== 'asking') return [state, []];
    if (want.by === 'talk' || this.wish.choral) return [state, [{ do: 'no-answer' }]];
    if (want.by === 'board') return this.#answerBoard(state, at);
    return adultMarks(modeOf(this.wish, state)) ? [state, [{ do: 'stop', at }]] : [state, []];
  }

  /** A digit key, 10 for `t`: the number, the first or second part of a pair, the choice in this place, or the number that was built. */
  #digit(state: SittingState, n: number, at: number): Step {
    const { want } = askOf(state);
    if (want.by === 'number') return this.#answer(state, String(want.to > 10 ? n + 10 : n), at);
    if (want.by === 'choice') return this.#answer(state, want.among[n - 1] ?? '', at);
    if (want.by === 'pair' || want.by === 'board') return this.#answer(state, String(n), at);
    const cuts = want.by === 'cut' && n > 0 && n < want.count && !want.cuts.includes(n);
    return cuts ? this.#answer(state, String(n), at) : [state, []];
  }

  /** An answer, tapped by the child or entered by the adult: the first one, or, after help, the one that came then. */
  #answer(state: SittingState, given: string, at: number): Step {
    const { want } = askOf(state);
    if (state.paused || given === '' || this.wish.choral || want.by === 'talk') return [state, []];
    if (state.moment === 'answered') return this.#answerAfterHelp(state, given);
    if (want.by !== 'pair' || given.includes('+')) return this.#enter(state, given, at);
    if (state.firstPart !== null) return this.#enter(state, `${state.firstPart}+${given}`, at);
    return [state.replacing !== null || this.near.asking ? { ...state, firstPart: given } : state, []];
  }
  #enter(state: SittingState, given: string, at: number): Step {
    return state.replacing !== null ? this.#enterAgain(state, given) : [state, [{ do: 'answer', given, at }]];
  }
  #answerAfterHelp(state: SittingState, given: string): Step {
    if (state.marks.help.length === 0 || state.row?.outcome === 'correct') return [state, []];
    return this.#mark(state, (marks) => ({ ...marks, second_answer: given }));
  }

  /** What the child has built on the frame. */
  #answerBoard(state: SittingState, at: number): Step {
    const { want } = askOf(state);
    const { board, asking } = this.near;
    if (want.by !== 'board' || board === null || !asking) return [state, []];
    const slip = want.plan.byRule ? slipOf(want.plan.layout, board) : null;
    return this.#answer({ ...state, slip }, String(builtNumber(want.plan, board)), at);
  }

  /** The number that was entered wrongly, entered anew: a spoken answer keeps its time, a tapped one has none any more. */
  #enterAgain(state: SittingState, given: string): Step {
    const was = state.replacing?.row ?? null;
    const stands: SittingState = { ...state, replacing: null, firstPart: null, given, moment: 'answered' };
    if (was === null) return [stands, []];
    const row = again(was, askOf(state), given, this.near.newId);
    return kept({ ...stands, row, marks: marksOf(row) }, row);
  }

  #noAnswer(state: SittingState): Step {
    if (state.replacing !== null) return this.#enterAgain(state, '');
    const open = state.moment === 'asking' || state.moment === 'stopped';
    return [state, askOf(state).want.by !== 'talk' && !this.wish.choral && open ? [{ do: 'no-answer' }] : []];
  }

  /** The same show again. Its answer is kept apart; a first look that brought no answer is recorded as such, and the look asked for once more. */
  #secondLook(state: SittingState): Step {
    if (state.paused || !canLookAgain(this.wish, state)) return [state, []];
    if (state.moment === 'asking' && this.near.asking) return [state, [{ do: 'no-answer' }]];
    return state.moment === 'answered' ? this.#show(state, 'second-look') : [state, []];
  }

  /** Takes the last entry back: it stays in the record as undone, and is asked for again. After the next has begun, it leads back to the answer before. */
  #undo(state: SittingState): Step {
    if (state.firstPart !== null) return [{ ...state, firstPart: null }, []];
    if (!canUndo(state)) return [state, []];
    if (state.moment !== 'answered') return this.#goBack(state);
    const { row } = state;
    const undone: Step = row === null ? [state, []] : kept(state, { ...row, void: 'undone' });
    return and(undone, (now) => {
      const cleared = { ...now, ...NO_ANSWER, marks: answerTakenBack(now.marks, now.slip) };
      return now.reopened
        ? [{ ...cleared, replacing: { row }, moment: 'stopped' }, []]
        : [{ ...cleared, moment: 'asking' }, [{ do: 'take-back' }]];
    });
  }

  /** Back to the answer before: it stands as it was, and can be changed. */
  #goBack(state: SittingState): Step {
    const { before, open } = state;
    if (before === null) return [state, []];
    // As it was marked since, in the list or before the next show.
    const row = before.row && (open.find((one) => one.response_id === before.row?.response_id) ?? before.row);
    const back: SittingState = {
      ...state,
      seenAlready: state.moment === 'asking' && this.near.asking,
      coming: false,
      line: stepBack(this.wish, state.line),
      before: null,
      reopened: true,
      row,
      given: before.given,
      marks: row ? marksOf(row) : NO_MARKS,
      moment: 'answered',
    };
    return [back, [{ do: 'stop-waiting' }, { do: 'abandon' }, { do: 'release' }]];
  }

  /** It was another child who answered: the last answer is that child's, and so is the go. Where only one sits, so are all that follow. */
  #wasAnother(state: SittingState, child: Sitter): Step {
    const { row } = state;
    const amends = canAmend(state) && row !== null;
    const moved: Step = amends ? this.#change(state, { ...row, child: child.id }) : [state, []];
    const { index } = state.line;
    return and(moved, (now) => {
      if (this.wish.children.length === 1) return [{ ...now, line: takeOver(now.line, child) }, []];
      const at = now.moment === 'ready' ? index - 1 : index;
      return amends && at >= 0 ? [{ ...now, line: handTo(this.wish, now.line, at, child.id) }, []] : [now, []];
    });
  }

  /** While the class answers together, a child is seen counting: noted, and never evidence. Pressed again, it was a slip. */
  #chip(state: SittingState, child: Sitter): Step {
    const was = state.chips.get(child.id);
    const { fact } = askOf(state);
    if (!this.wish.choral || fact === null || state.moment === 'ready' || state.moment === 'done') return [state, []];
    const row = was
      ? { ...was, void: was.void === CHORAL ? 'undone' : CHORAL }
      : choralRow({ ...this.#asked(state, fact, this.near.now), child: child.id });
    return [{ ...state, chips: new Map(state.chips).set(child.id, row) }, [{ do: 'keep', row }]];
  }

  /** Spoiled: the last answer, which is left out and gone on from; or the show that is on, which is asked again. */
  #spoil(state: SittingState): Step {
    const { row } = state;
    if (canAmend(state) && row !== null) return this.#change(state, { ...row, void: row.void === '' ? 'spoiled' : '' });
    return this.near.asking ? [{ ...state, spoiled: true }, [{ do: 'no-answer' }]] : [state, []];
  }

  /** Look again, a frame under it, count together …: the stage shows what helps, and the record says what it was. */
  #help(state: SittingState, help: Help): Step {
    const open = help === 'look-again' ? helpsAgain(this.wish, state) : helpsOf(this.wish, state).includes(help);
    if (!open) return [state, []];
    const picture = helpPicture(askOf(state), help);
    const marked = this.#mark(state, (marks) => withHelp(marks, help));
    return and(marked, (now) => [now, picture ? [{ do: 'lay', picture }] : []]);
  }

  /** The press in this place after an answer: what helps, or how the child did it. */
  #place(state: SittingState, place: number): Step {
    const help = helpsOf(this.wish, state)[place];
    const explanation = explanationsOf(state)[place];
    if (help) return this.#help(state, help);
    return explanation ? this.#markIfOpen(state, (marks) => withExplanation(marks, explanation)) : [state, []];
  }

  #markIfOpen(state: SittingState, change: (marks: Marks) => Marks): Step {
    return canMark(this.wish, state) ? this.#mark(state, change) : [state, []];
  }
  #mark(state: SittingState, change: (marks: Marks) => Marks): Step {
    const marks = change(state.marks);
    const marked = { ...state, marks };
    return state.row === null ? [marked, []] : this.#change(marked, { ...state.row, ...marks });
  }
  /** The same for one of the last answers, in their list. */
  #markEarlier(state: SittingState, id: string, change: (marks: Marks) => Marks): Step {
    if (state.row?.response_id === id) return this.#mark(state, change);
    const row = state.open.find((one) => one.response_id === id);
    return row ? kept(state, { ...row, ...change(marksOf(row)) }) : [state, []];
  }

  #pause(state: SittingState): Step {
    if (state.moment === 'done') return [state, []];
    const unseen = state.moment === 'asking' && this.near.here !== null && !this.near.asking;
    const disturbed: SittingEffect[] = state.paused ? [] : [{ do: 'disturbed', why: 'paused' }];
    // Paused before the show appeared: it starts again afterwards.
    const left: SittingEffect[] = unseen ? [{ do: 'abandon' }, { do: 'release' }] : [];
    const now: SittingState = { ...state, paused: !state.paused, moment: unseen ? 'ready' : state.moment };
    return and([now, [...disturbed, ...left]], (next) => (next.moment === 'ready' ? this.#ready(next) : [next, []]));
  }

  #next(state: SittingState): Step {
    const ask = askOf(state);
    // Talk, and what all say together, is nothing to go back to.
    const isAnswer = ask.want.by !== 'talk' && !this.wish.choral;
    const { line, goes } = advance(this.wish, state.line, {
      ask,
      given: state.given ?? '',
      right: isRight(ask, state.given ?? ''),
      responseMs: state.row?.response_ms ?? null,
      sign: observedOf(state.marks).sign,
    });
    const now: SittingState = {
      ...state,
      line,
      before: isAnswer ? { row: state.row, given: state.given } : null,
      given: null,
      slip: null,
      replacing: null,
      reopened: false,
      chips: new Map(),
    };
    if (!goes) return this.#end(now);
    const closing: Step = [now, [{ do: 'close', except: now.open.map((row) => row.response_id) }]];
    return and(closing, (next) =>
      this.#goesOnAsItStands(next) ? this.#show(next, askOf(next).aid) : this.#ready(next),
    );
  }

  /** Talk, questions about a picture that stays in view, and a picture that only changes need no ready: nothing is cleared. */
  #goesOnAsItStands({ line, shown, seenAlready }: SittingState): boolean {
    const { ask, child } = turnOf(line);
    if (seenAlready || shown?.child !== child) return false;
    if (ask.changes) return true;
    if (ask.flash) return false;
    return ask.want.by === 'talk' || JSON.stringify(shown.ask.picture) === JSON.stringify(ask.picture);
  }

  /** A child leaves the carpet, or comes back to it; what they answered stays. */
  #away(state: SittingState, child: string): Step {
    const ready = state.moment === 'ready';
    if (!ready && (child === sitterOf(state.line).id || state.moment !== 'answered')) return [state, []];
    const { index } = state.line;
    const line = toggleAway(this.wish, state.line, child, ready ? index : index + 1);
    return ready ? this.#ready({ ...state, line }) : [{ ...state, line }, []];
  }

  /** Ends here: what was marked stays. */
  #end(state: SittingState): Step {
    return [
      { ...state, row: null, paused: false, coming: false, moment: 'done' },
      [{ do: 'stop-waiting' }, { do: 'abandon' }, { do: 'release' }, { do: 'close', except: [] }],
    ];
  }

  /** The measurement was lost, for example because the other screen was reloaded: asks the question again. */
  #lost(state: SittingState): Step {
    if (state.replacing !== null || (state.moment !== 'asking' && state.moment !== 'stopped')) return [state, []];
    // The adult sees first that the screen is back.
    return [{ ...state, firstPart: null, moment: 'ready' }, [{ do: 'abandon' }, { do: 'release' }]];
  }

  #answered(before: SittingState, { given, result, shownAt, within }: Extract<Gesture, { type: 'answered' }>): Step {
    const ask = askOf(before);
    const state: SittingState = { ...before, firstPart: null, given, moment: 'answered' };
    if (ask.want.by === 'talk') return and([state, [{ do: 'release' }]], (now) => this.#next(now));
    if (ask.fact === null || this.wish.choral) return [state, [{ do: 'release' }]];
    const { slip, marks: seen } = state;
    // What was marked before the answer stood, beside how the counters were laid.
    const marks = slip !== null && !observedOf(seen).finerSigns.includes(slip) ? withFiner(seen, slip) : seen;
    const mode = modeOf(this.wish, state);
    const how = { mode, spoiled: state.spoiled, askedMs: this.#askedMs(state), within };
    const measured = answerRow(this.#asked(state, ask.fact, shownAt), ask, given, how, result);
    const aloud = this.#aloud(state, ask, given);
    const flags = aloud.known ? [...measured.flags, 'heard' as const] : measured.flags;
    const row = { ...measured, ...marks, flags };
    const board = boardAfter(ask, given);
    const stands = this.#change({ ...state, marks, spoiled: false, heard: aloud.heard }, row);
    return and(stands, (now) => {
      const laid: Step = [now, [...(board ? [{ do: 'lay', picture: board } as const] : []), { do: 'release' }]];
      return state.spoiled ? and(laid, (again) => this.#ready({ ...again, seenAlready: true })) : laid;
    });
  }

  /** What has been said aloud with this answer, and whether another child said it, or it turned round, a moment ago. */
  #aloud({ heard, line }: SittingState, ask: Ask, given: string) {
    const fact = ask.fact === null ? null : turnAround(ask.fact);
    const { id: child } = sitterOf(line);
    const at = this.near.now;
    if (fact === null) return { heard, known: false };
    const known = heard.some((one) => one.fact === fact && one.child !== child && at - one.at < IN_EAR_MS);
    return { heard: given === '' ? heard : [...heard, { fact, child, at }], known };
  }

  #asked({ id, line, aid }: SittingState, fact: string, shownAt: number) {
    return { id: this.near.newId, child: sitterOf(line).id, sitting: id, shownAt, fact, aid };
  }

  #change(state: SittingState, row: RecordRow): Step {
    return kept({ ...state, row }, row);
  }
}

/** What a gesture makes of a sitting, and what is to be done outside, in this order. Pure: it reads no clock and touches no stage. */
export const stepSitting = (wish: SittingWish, state: SittingState, gesture: Gesture, near: Surroundings): Step =>
  new Steps(wish, near).take(state, gesture);
