// Longer than other files: every gesture of the adult and every word of the stage is one short method of the same thing, and each needs its state.
import { computed, signal } from '@angular/core';
import type { CarpetSettings, RecordRow } from '@vane/contract';
import {
  adultMarks,
  builtNumber,
  isFact,
  isRight,
  observedText,
  parseObserved,
  slipOf,
  type Aid,
  type AnswerMode,
  type Ask,
  type Board,
  type Measured,
  type Sign,
  type Slip,
  type Turn,
} from '@vane/core';
import { v7 } from 'uuid';
import type { Stage, StageListener } from '../measurement/stageRunner';
import { Recorder, type Keeper } from './recorder';
import { answerRow, CHORAL, choralRow } from './rows';
import { TurnLine, type Follow, type Sitter } from './turnLine';

/** Where the adult is: `ready` to show, `asking` the child, `stopped` (it spoke: which number?), `answered`, `done`. */
export type Moment = 'ready' | 'asking' | 'stopped' | 'answered' | 'done';

export const FINER_SIGNS = ['fingers', 'lips'] as const;
export type FinerSign = (typeof FINER_SIGNS)[number];

export interface SittingWish {
  readonly classId: string;
  readonly settings: CarpetSettings;
  /** Who sits, in the order of the turn line. With the whole class answering together it is one sitter for all. */
  readonly children: readonly Sitter[];
  /** Turns (child and question) in order; at least one. */
  readonly turns: readonly Turn[];
  readonly follow: Follow;
  /** Everybody who may be meant: for a slip of who sits here, and for chips while the class answers together. */
  readonly classmates: readonly Sitter[];
  /** The class answers together: nothing of that is evidence, and it is not recorded. */
  readonly choral: boolean;
  /** How many questions there will be follows from the answers. */
  readonly open: boolean;
}

/**
 * A run through a list of questions, with one child or with several in turn: what is shown, what was answered, and what the adult adds to it. It changes
 * nothing the framework watches between onset and answer.
 */
export class Sitting implements StageListener {
  readonly id = v7();
  readonly #moment = signal<Moment>('ready');
  readonly #row = signal<RecordRow | null>(null);
  readonly #paused = signal(false);
  /** The first part of a pair that waits for its second. */
  readonly #firstPart = signal<string | null>(null);
  /** How counters were laid against the rule, when they were. */
  readonly #slip = signal<Slip | null>(null);
  /** What was given last, recorded or not. */
  readonly #given = signal<string | null>(null);
  /** Children seen counting while the class answers this question together. */
  readonly #chips = signal<ReadonlyMap<string, RecordRow>>(new Map());
  #runner: Stage | null = null;
  #readBoard: () => Board | null = () => null;
  #aid: Aid = 'none';
  #spoil = false;

  readonly moment = this.#moment.asReadonly();
  readonly paused = this.#paused.asReadonly();
  readonly firstPart = this.#firstPart.asReadonly();
  readonly slip = this.#slip.asReadonly();
  readonly given = this.#given.asReadonly();
  readonly chips = this.#chips.asReadonly();
  /** The last answer while it can still be changed. */
  readonly row = this.#row.asReadonly();
  readonly line: TurnLine;
  readonly record: Recorder;
  readonly ask = computed((): Ask => this.line.turn().ask);
  readonly child = computed((): Sitter => this.line.child());
  /** An adult stops the clock and marks what came. */
  readonly marks = computed(() => adultMarks(this.mode()));
  /** How this question is answered. */
  readonly mode = computed((): AnswerMode => {
    const { want, aid } = this.ask();
    if (want.by === 'board' || want.by === 'cut') return 'build';
    return aid === 'objects' ? 'show' : this.wish.settings.answerMode;
  });
  readonly #observed = computed(() => parseObserved(this.#row()?.observed ?? '') ?? { sign: null, finerSigns: [] });
  readonly sign = computed(() => this.#observed().sign);
  readonly finer = computed((): readonly string[] => this.#observed().finerSigns);
  /** The answer stands and the stage is still: signs and void are open. */
  readonly canAmend = computed(() => this.#moment() === 'answered' && this.#row() !== null);
  readonly canUndo = computed(
    () => this.#firstPart() !== null || (this.#moment() === 'answered' && this.#given() !== null),
  );
  readonly canLookAgain = computed(
    () => this.ask().flash && this.wish.settings.secondLook && this.#moment() !== 'ready',
  );

  constructor(
    readonly wish: SittingWish,
    private readonly keeper: Keeper,
    /** Milliseconds since 1970. */
    private readonly now: () => number,
  ) {
    const { classId, settings } = wish;
    this.line = new TurnLine(wish.children, wish.turns, wish.follow);
    const row = {
      id: this.id,
      routine: settings.routine,
      started_at: new Date(now()).toISOString(),
      answer_mode: settings.answerMode,
      settings,
    };
    this.record = new Recorder(keeper, classId, row);
  }

  /** The stage to run on; until then the sitting waits. */
  attach(runner: Stage): void {
    this.#runner = runner;
  }

  /** Where the board that a child builds on is read from. */
  attachBoard(read: () => Board | null): void {
    this.#readBoard = read;
  }

  /** Space: shows, stops the clock, or goes on, whichever is next. */
  goOn(at: number): void {
    if (this.#paused()) return;
    const moment = this.#moment();
    if (moment === 'ready') this.#show(this.ask().aid);
    else if (moment === 'answered') this.next();
    else if (moment === 'asking' && (this.ask().want.by === 'talk' || this.wish.choral)) this.#runner?.noAnswer();
    else if (moment === 'asking' && this.ask().want.by === 'board') this.#answerBoard(at);
    else if (moment === 'asking' && this.marks()) this.#runner?.stop(at);
  }

  /** A digit key, 10 for `t`: the number, the first or second part of a pair, the choice in this place, or the number that was built. */
  mark(n: number, at: number): void {
    const { want } = this.ask();
    if (want.by === 'number') this.answer(String(n + want.from), at);
    else if (want.by === 'choice') this.answer(want.among[n - 1] ?? '', at);
    else if (want.by === 'pair' || want.by === 'board') this.answer(String(n), at);
    else if (want.by === 'cut' && n > 0 && n < want.count && !want.cuts.includes(n)) this.answer(String(n), at);
  }

  /** An answer, tapped by the child or marked by the adult. */
  answer(given: string, at: number): void {
    if (this.#paused() || given === '' || this.wish.choral || this.ask().want.by === 'talk') return;
    if (this.ask().want.by !== 'pair' || given.includes('+')) return this.#runner?.answer(given, at);
    const first = this.#firstPart();
    if (first !== null) this.#runner?.answer(`${first}+${given}`, at);
    else if (this.#runner?.asking) this.#firstPart.set(given);
  }

  /** What the child has built on the frame. */
  #answerBoard(at: number): void {
    const { want } = this.ask();
    const board = this.#readBoard();
    if (want.by !== 'board' || board === null || !this.#runner?.asking) return;
    this.#slip.set(want.plan.byRule ? slipOf(want.plan.layout, board) : null);
    this.answer(String(builtNumber(want.plan, board)), at);
  }

  noAnswer(): void {
    if (
      this.ask().want.by !== 'talk' &&
      !this.wish.choral &&
      (this.#moment() === 'asking' || this.#moment() === 'stopped')
    )
      this.#runner?.noAnswer();
  }

  /** The same show again. Its answer is kept apart; a first look that brought no answer is recorded as such. */
  secondLook(): void {
    if (this.#paused() || !this.canLookAgain()) return;
    if (this.#moment() === 'asking' && this.#runner?.asking) this.#runner.noAnswer();
    if (this.#moment() === 'answered') this.#show('second-look');
  }

  /** Takes the last mark back: it stays in the record as undone, and the answer is asked for again. */
  undo(): void {
    if (this.#firstPart() !== null) return this.#firstPart.set(null);
    if (!this.canUndo()) return;
    const row = this.#row();
    if (row !== null) this.record.keep({ ...row, void: 'undone' });
    this.#clear();
    this.#moment.set('asking');
    this.#runner?.takeBack();
  }

  /** It was another child who answered: the last answer is that child's. Where only one sits, so are all that follow. */
  wasAnother(child: Sitter): void {
    const row = this.#row();
    if (this.canAmend() && row !== null) this.#change({ ...row, child: child.id });
    if (this.wish.children.length === 1) this.line.takeOver(child);
  }

  /** While the class answers together, a child is seen counting: noted, and never evidence. Pressed again, it was a slip. */
  chip(child: Sitter): void {
    const was = this.#chips().get(child.id);
    const { fact } = this.ask();
    if (!this.wish.choral || fact === null || this.#moment() === 'ready' || this.#moment() === 'done') return;
    const row = was
      ? { ...was, void: was.void === CHORAL ? 'undone' : CHORAL }
      : choralRow({ ...this.#asked(fact, this.now()), child: child.id });
    this.#chips.update((chips) => new Map(chips).set(child.id, row));
    this.record.keep(row);
  }

  /** Spoiled: the last answer, or the show that is on. */
  spoil(): void {
    const row = this.#row();
    if (this.canAmend() && row !== null) this.#change({ ...row, void: row.void === '' ? 'spoiled' : '' });
    else if (this.#runner?.asking) {
      this.#spoil = true;
      this.#runner.noAnswer();
    }
  }

  toggleSign(sign: Sign): void {
    this.#observe(this.sign() === sign ? null : sign, this.finer());
  }
  toggleFiner(sign: FinerSign): void {
    const now = this.finer();
    this.#observe(this.sign(), now.includes(sign) ? now.filter((s) => s !== sign) : [...now, sign]);
  }

  togglePause(): void {
    if (this.#moment() === 'done') return;
    if (!this.#paused()) this.#runner?.disturbed('paused');
    if (this.#moment() === 'asking' && this.#runner && !this.#runner.asking) {
      // Paused before the show appeared: it starts again afterwards.
      this.#runner.abandon();
      this.#moment.set('ready');
      this.keeper.release();
    }
    this.#paused.update((paused) => !paused);
  }

  disturbed(why: 'hidden' | 'blurred'): void {
    this.#runner?.disturbed(why);
  }

  next(): void {
    const before = this.child().id;
    const goes = this.line.advance(this.#answered());
    this.#clear();
    this.#chips.set(new Map());
    if (!goes) return this.end();
    this.record.close();
    // Another child has to come to the stage first.
    if (this.child().id === before) this.#show(this.ask().aid);
    else this.#moment.set('ready');
  }

  #answered() {
    const row = this.#row();
    const given = this.#given() ?? '';
    return {
      ask: this.ask(),
      given,
      right: isRight(this.ask(), given),
      responseMs: row?.response_ms ?? null,
      sign: this.sign(),
    };
  }

  /** The fact asked last, of those that are recorded. */
  lastFact(): string {
    const asked = this.line
      .turns()
      .slice(0, this.line.index() + 1)
      .map((turn) => turn.ask.fact);
    return asked.reverse().find((fact) => fact !== null && isFact(fact)) ?? '';
  }

  /** Whoever is to go now goes later. */
  goLater(): void {
    if (this.#moment() === 'ready') this.line.goLater();
  }

  /** A child leaves the carpet, or comes back to it; what it has answered stays. */
  toggleAway(child: string): void {
    const ready = this.#moment() === 'ready';
    if (!ready && (child === this.child().id || this.#moment() !== 'answered')) return;
    this.line.toggleAway(child, ready ? this.line.index() : this.line.index() + 1);
  }

  /** Ends here: what was marked stays. */
  end(): void {
    this.#runner?.abandon();
    this.#row.set(null);
    this.#paused.set(false);
    this.#moment.set('done');
    this.keeper.release();
    this.record.close();
  }

  stopped(): void {
    this.#moment.set('stopped');
  }

  /** The measurement was lost, for example because the other screen was reloaded: asks the question again. */
  lost(): void {
    if (this.#moment() !== 'asking' && this.#moment() !== 'stopped') return;
    this.#runner?.abandon();
    this.#firstPart.set(null);
    this.#moment.set('ready');
    this.keeper.release();
  }

  answered(given: string, result: Measured, shownAt: number, within: number): void {
    const ask = this.ask();
    this.#firstPart.set(null);
    this.#given.set(given);
    this.#moment.set('answered');
    if (ask.want.by === 'talk') {
      this.keeper.release();
      return this.next();
    }
    if (ask.fact === null || this.wish.choral) return this.keeper.release();
    const how = { mode: this.mode(), slip: this.#slip(), spoiled: this.#spoil, askedMs: this.#askedMs(), within };
    this.#spoil = false;
    this.#change(answerRow(this.#asked(ask.fact, shownAt), ask, given, how, result));
    this.keeper.release();
  }

  #asked(fact: string, shownAt: number) {
    return { child: this.child().id, sitting: this.id, shownAt, fact, aid: this.#aid };
  }

  #askedMs(): number | null {
    return this.ask().flash ? this.wish.settings.exposureMs : null;
  }

  #show(aid: Aid): void {
    const exposureMs = this.#askedMs();
    this.#aid = aid;
    this.#clear();
    this.keeper.hold();
    this.#moment.set('asking');
    this.#runner?.begin({ ask: this.ask(), exposureMs, answerMode: this.mode() });
  }

  /** Forgets the last answer: it is closed, taken back, or another one is about to come. */
  #clear(): void {
    this.#row.set(null);
    this.#given.set(null);
    this.#slip.set(null);
  }

  #observe(sign: Sign | null, finer: readonly string[]): void {
    const row = this.#row();
    if (!this.canAmend() || row === null) return;
    this.#change({ ...row, observed: observedText({ sign, finerSigns: finer }) });
  }

  #change(row: RecordRow): void {
    this.#row.set(row);
    this.record.keep(row);
  }
}
