import { computed, signal, type Signal } from '@angular/core';
import {
  adultMarks,
  isFact,
  isRight,
  type Ask,
  type Board,
  type Explanation,
  type Help,
  type Measured,
  type Sign,
} from '@vane/core';
import { v7 } from 'uuid';
import type { Stage, StageListener } from '../measurement/stageRunner';
import { observedOf, type FinerSign, type Marks } from './marks';
import { later, Ready, type Wait } from './ready';
import { Recorder, type Keeper } from './recorder';
import { stepSitting, type Gesture, type SittingEffect } from './sittingMachine';
import {
  askOf,
  beginSitting,
  canAmend,
  canLookAgain,
  canMark,
  canUndo,
  explanationsOf,
  helpsAgain,
  helpsOf,
  modeOf,
  replyOf,
  type SittingState,
} from './sittingState';
import type { SittingWish } from './sittingWish';
import { sitterOf, turnCounts, type Sitter } from './turns';

/**
 * A run through a list of questions, with one child or with several in turn: the machine of a sitting, with a stage, the clock of the ready and the record to do what it says. It changes nothing
 * the framework watches between onset and answer.
 */
export class Sitting implements StageListener {
  readonly id = v7();
  readonly #state: ReturnType<typeof signal<SittingState>>;
  readonly #ready: Ready;
  #runner: Stage | null = null;
  #readBoard: () => Board | null = () => null;

  readonly record: Recorder;

  constructor(
    readonly wish: SittingWish,
    private readonly keeper: Keeper,
    /** Milliseconds since 1970. */
    private readonly now: () => number,
    wait: Wait = later,
  ) {
    const { classId, settings } = wish;
    this.#state = signal(beginSitting(this.id, wish));
    this.record = new Recorder(keeper, classId, {
      id: this.id,
      routine: settings.routine,
      started_at: new Date(now()).toISOString(),
      answer_mode: settings.answerMode,
      settings,
    });
    this.#ready = new Ready(wait);
  }

  #told<T>(of: (state: SittingState) => T): Signal<T> {
    return computed(() => of(this.#state()));
  }
  readonly moment = this.#told(({ moment }) => moment);
  readonly paused = this.#told(({ paused }) => paused);
  readonly firstPart = this.#told(({ firstPart }) => firstPart);
  readonly slip = this.#told(({ slip }) => slip);
  readonly given = this.#told(({ given }) => given);
  readonly chips = this.#told(({ chips }) => chips);
  readonly coming = this.#told(({ coming }) => coming);
  readonly waiting = this.#told(({ waiting }) => waiting);
  /** The last answer while it can still be changed. */
  readonly row = this.#told(({ row }) => row);
  /** The last answers, the newest first: they can still be changed. */
  readonly last = this.#told(({ open }) => open);
  readonly marks = this.#told(({ marks }) => marks);
  readonly observed = computed(() => observedOf(this.marks()));
  readonly line = this.#told(({ line }) => line);
  readonly turnCounts = computed(() => turnCounts(this.line()));
  readonly ask = this.#told(askOf);
  readonly child = this.#told(({ line }): Sitter => sitterOf(line));
  readonly mode = this.#told((state) => modeOf(this.wish, state));
  /** An adult stops the clock and enters what came. */
  readonly entered = computed(() => adultMarks(this.mode()));
  readonly canAmend = this.#told(canAmend);
  readonly canMark = this.#told((state) => canMark(this.wish, state));
  readonly canUndo = this.#told(canUndo);
  readonly canLookAgain = this.#told((state) => canLookAgain(this.wish, state));
  readonly reply = this.#told((state) => replyOf(this.wish, state));
  readonly helps = this.#told((state) => helpsOf(this.wish, state));
  readonly explanations = this.#told(explanationsOf);
  /** After help the right answer came. */
  readonly putRight = computed(() => {
    const { second_answer: second } = this.marks();
    return second !== '' && isRight(this.ask(), second);
  });

  #take(gesture: Gesture): void {
    const near = {
      here: this.#runner?.here ?? null,
      asking: this.#runner?.asking ?? false,
      board: this.#readBoard(),
      now: this.now(),
      newId: v7(),
    };
    const [state, effects] = stepSitting(this.wish, this.#state(), gesture, near);
    // Before its effects: the stage may answer in the midst of them.
    this.#state.set(state);
    for (const effect of effects) this.#perform(effect);
  }

  #perform(effect: SittingEffect): void {
    const runner = this.#runner;
    switch (effect.do) {
      case 'begin':
        return runner?.begin(effect.show);
      case 'stop':
        return runner?.stop(effect.at);
      case 'answer':
        return runner?.answer(effect.given, effect.at);
      case 'no-answer':
        return runner?.noAnswer();
      case 'take-back':
        return runner?.takeBack();
      case 'abandon':
        return runner?.abandon();
      case 'lay':
        return runner?.lay(effect.picture);
      case 'disturbed':
        return runner?.disturbed(effect.why);
      case 'wait':
        return this.#ready.begin(effect.ms, () => this.#take({ type: 'ready-over' }));
      case 'stop-waiting':
        return this.#ready.cancel();
      case 'keep':
        return this.record.keep(effect.row);
      case 'close':
        return this.record.close(effect.except);
      case 'hold':
        return this.keeper.hold();
      case 'release':
        return this.keeper.release();
    }
  }

  /** The stage to run on, or another one to go on with; until then the sitting waits. */
  attach(runner: Stage): void {
    const first = this.#runner === null;
    this.#runner = runner;
    this.#take({ type: first ? 'ready' : 'joined' });
  }
  /** Where the board that a child builds on is read from. */
  attachBoard(read: () => Board | null): void {
    this.#readBoard = read;
  }

  /** The other screen was joined. */
  joined(): void {
    this.#take({ type: 'joined' });
  }
  ready(): void {
    this.#take({ type: 'ready' });
  }
  /** The show waits for the adult's hand. */
  waitByHand(): void {
    this.#take({ type: 'by-hand' });
  }
  goOn(at: number): void {
    this.#take({ type: 'go-on', at });
  }
  mark(n: number, at: number): void {
    this.#take({ type: 'digit', n, at });
  }
  answer(given: string, at: number): void {
    this.#take({ type: 'answer', given, at });
  }
  help(help: Help): void {
    this.#take({ type: 'help', help });
  }
  noAnswer(): void {
    this.#take({ type: 'no-answer' });
  }
  /** A first look that brought no answer is recorded as such first, by the stage; then the look can be asked for again. */
  secondLook(): void {
    if (this.moment() === 'asking') this.#take({ type: 'second-look' });
    this.#take({ type: 'second-look' });
  }
  /** Shows the picture again: after a wrong answer as help, before an answer as a second look. */
  readonly canShowAgain = computed(() => this.#helpsAgain() || this.canLookAgain());
  readonly #helpsAgain = this.#told((state) => helpsAgain(this.wish, state));
  showAgain(): void {
    if (this.#helpsAgain()) this.#take({ type: 'help', help: 'look-again' });
    else this.secondLook();
  }
  undo(): void {
    this.#take({ type: 'undo' });
  }
  wasAnother(child: Sitter): void {
    this.#take({ type: 'was-another', child });
  }
  chip(child: Sitter): void {
    this.#take({ type: 'chip', child });
  }
  spoil(): void {
    this.#take({ type: 'spoil' });
  }
  then(place: number): void {
    this.#take({ type: 'place', place });
  }
  toggleSign(sign: Sign): void {
    this.#take({ type: 'sign', sign });
  }
  toggleFiner(sign: FinerSign): void {
    this.#take({ type: 'finer', sign });
  }
  toggleExplanation(explanation: Explanation): void {
    this.#take({ type: 'explanation', explanation });
  }
  markEarlier(id: string, change: (marks: Marks) => Marks): void {
    this.#take({ type: 'mark-earlier', id, change });
  }
  togglePause(): void {
    this.#take({ type: 'pause' });
  }
  disturbed(why: 'hidden' | 'blurred'): void {
    this.#take({ type: 'disturbed', why });
  }
  next(): void {
    this.#take({ type: 'next' });
  }
  goLater(): void {
    this.#take({ type: 'go-later' });
  }
  toggleAway(child: string): void {
    this.#take({ type: 'away', child });
  }
  end(): void {
    this.#take({ type: 'end' });
  }
  stopped(): void {
    this.#take({ type: 'stopped' });
  }
  lost(): void {
    this.#take({ type: 'lost' });
  }
  answered(given: string, result: Measured, shownAt: number, within: number): void {
    this.#take({ type: 'answered', given, result, shownAt, within });
  }

  /** The fact asked last, of those that are recorded. */
  lastFact(): string {
    const { turns, index } = this.line();
    const asked = turns.slice(0, index + 1).map((turn: { ask: Ask }) => turn.ask.fact);
    return asked.reverse().find((fact) => fact !== null && isFact(fact)) ?? '';
  }
}
