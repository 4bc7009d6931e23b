// Longer than other files: every gesture of the adult and every word of the stage is one short method of the same thing, and each needs its state.
import { computed, signal, type Signal } from '@angular/core';
import type { RecordRow } from '@vane/contract';
import {
  adultMarks,
  boardAfter,
  builtNumber,
  explanationsFor,
  helpPicture,
  isFact,
  isRight,
  applySupport,
  replyTo,
  slipOf,
  type Aid,
  type AnswerMode,
  type Ask,
  type Board,
  type Explanation,
  type Help,
  type Measured,
  type Reply,
  type Sign,
  type Slip,
} from '@vane/core';
import { v7 } from 'uuid';
import type { Stage, StageListener } from '../measurement/stageRunner';
import { AnswerMarks, type FinerSign } from './answerMarks';
import { OpenRows } from './openRows';
import { later, Ready, type Wait } from './ready';
import { Recorder, type Keeper } from './recorder';
import { again, answerRow, CHORAL, choralRow } from './rows';
import type { SittingWish } from './sittingWish';
import { TurnLine, type Sitter } from './turnLine';

/** Where the adult is: `ready` for the show, `asking` the child, `stopped` (it spoke: which number?), `answered`, `done`. */
type Moment = 'ready' | 'asking' | 'stopped' | 'answered' | 'done';

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
  readonly #ready: Ready;
  readonly #open: OpenRows;
  /** The question before this one can still be gone back to. */
  readonly #before = signal<{ readonly row: RecordRow | null; readonly given: string | null } | null>(null);
  /** An answer is entered anew, without a trial: the one it replaces. */
  #again: { readonly row: RecordRow | null } | null = null;
  /** The answer that stands belongs to a trial that is over on the stage. */
  #reopened = false;
  /** What was shown last was seen, though nobody answered: shown again, it is a second look. */
  #seenAlready = false;
  #shown: { readonly child: string; readonly ask: Ask } | null = null;

  readonly moment = this.#moment.asReadonly();
  readonly paused = this.#paused.asReadonly();
  readonly firstPart = this.#firstPart.asReadonly();
  readonly slip = this.#slip.asReadonly();
  readonly given = this.#given.asReadonly();
  readonly chips = this.#chips.asReadonly();
  /** The ready is running: the show comes by itself. */
  readonly coming: Signal<boolean>;
  /** The last answer while it can still be changed: until the next show. */
  readonly row = this.#row.asReadonly();
  /** The last answers, the newest first: they can still be changed. */
  readonly last: Signal<readonly RecordRow[]>;
  readonly marks = new AnswerMarks();
  readonly line: TurnLine;
  readonly record: Recorder;
  readonly ask = computed((): Ask => this.line.turn().ask);
  readonly child = computed((): Sitter => this.line.child());
  /** An adult stops the clock and enters what came. */
  readonly entered = computed(() => adultMarks(this.mode()));
  /** How this question is answered. */
  readonly mode = computed((): AnswerMode => {
    const { want, aid } = this.ask();
    if (want.by === 'board' || want.by === 'cut') return 'build';
    return aid === 'objects' ? 'show' : this.#supported().answerMode;
  });
  /** How the questions are put to the child whose turn it is. */
  readonly #supported = computed(() => applySupport(this.wish.settings, this.child().support ?? []));
  /** An answer stands, or stood last: void and whose it was are open. */
  readonly canAmend = computed(
    () => (this.#moment() === 'answered' || this.#moment() === 'ready') && this.#row() !== null,
  );
  /** Signs: from the moment of the show until the next one. */
  readonly canMark = computed(
    () => this.canAmend() || (!this.wish.choral && ['asking', 'stopped', 'answered'].includes(this.#moment())),
  );
  readonly canUndo = computed(
    () =>
      this.#firstPart() !== null ||
      (this.#moment() === 'answered' && this.#given() !== null) ||
      ((this.#moment() === 'ready' || this.#moment() === 'asking') && this.#before() !== null),
  );
  readonly canLookAgain = computed(
    () => this.ask().flash && this.wish.settings.secondLook && this.#moment() !== 'ready' && !this.#reopened,
  );
  /** What the adult says next, and what would help. */
  readonly reply = computed((): Reply =>
    // What all said together was neither right nor wrong.
    this.wish.choral ? { say: this.ask().after, helps: [] } : replyTo(this.ask(), this.#given() ?? ''),
  );
  /** Help is open: the first answer stands and was not right. */
  readonly helps = computed((): readonly Help[] =>
    this.#moment() === 'answered' && this.#row() !== null ? this.reply().helps : [],
  );

  /** After help the right answer came. */
  readonly putRight = computed(
    () => this.marks.secondAnswer() !== '' && isRight(this.ask(), this.marks.secondAnswer()),
  );
  /** How the child may have done it: open once their answer was right. */
  readonly explanations = computed((): readonly Explanation[] => {
    const row = this.#row();
    return row?.outcome === 'correct' && row.aid === 'none' && this.canAmend() ? explanationsFor(row.fact) : [];
  });
  readonly #here = signal(false);
  /** Nobody has joined the other screen yet. */
  readonly waiting = computed(() => !this.#here());

  constructor(
    readonly wish: SittingWish,
    private readonly keeper: Keeper,
    /** Milliseconds since 1970. */
    private readonly now: () => number,
    wait: Wait = later,
  ) {
    const { classId, settings } = wish;
    this.line = new TurnLine(wish.children, wish.turns, wish.follow, wish.shared);
    const row = {
      id: this.id,
      routine: settings.routine,
      started_at: new Date(now()).toISOString(),
      answer_mode: settings.answerMode,
      settings,
    };
    this.record = new Recorder(keeper, classId, row);
    this.#open = new OpenRows(this.record);
    this.last = this.#open.all;
    this.#ready = new Ready(wait);
    this.coming = this.#ready.coming;
  }

  /** The stage to run on; until then the sitting waits. */
  attach(runner: Stage): void {
    const first = this.#runner === null;
    this.#runner = runner;
    if (first) this.ready();
  }

  /** The other screen was joined. */
  joined(): void {
    if (this.#moment() === 'ready') this.ready();
  }

  /** The ready before a show; where a time is set for it, the show comes by itself when it is over. A stage that nobody has joined yet is waited for. */
  ready(): void {
    this.#ready.cancel();
    this.#here.set(this.#runner?.here ?? false);
    this.#moment.set('ready');
    const { screens } = this.wish.settings;
    const { readyMs, answerMode } = this.#supported();
    // A child alone shows their first question themselves; and a voice key has to be chosen first.
    const first = this.#shown?.child !== this.child().id;
    const byHand =
      readyMs === null || (screens === 'alone' && first) || (answerMode === 'voice' && this.#shown === null);
    if (byHand || this.#paused() || this.waiting()) return;
    this.#ready.begin(readyMs, () => this.#show(this.ask().aid));
  }
  /** The show waits for the adult's hand. */
  waitByHand(): void {
    if (this.#moment() === 'ready') this.#ready.cancel();
  }
  /** Where the board that a child builds on is read from. */
  attachBoard(read: () => Board | null): void {
    this.#readBoard = read;
  }

  /** Space: shows, stops the clock, or goes on, whichever is next. */
  goOn(at: number): void {
    if (this.#paused()) return;
    const moment = this.#moment();
    if (moment === 'ready' && !this.waiting()) this.#show(this.ask().aid);
    else if (moment === 'answered') this.next();
    else if (moment === 'asking' && (this.ask().want.by === 'talk' || this.wish.choral)) this.#runner?.noAnswer();
    else if (moment === 'asking' && this.ask().want.by === 'board') this.#answerBoard(at);
    else if (moment === 'asking' && this.entered()) this.#runner?.stop(at);
  }

  /** A digit key, 10 for `t`: the number, the first or second part of a pair, the choice in this place, or the number that was built. */
  mark(n: number, at: number): void {
    const { want } = this.ask();
    if (want.by === 'number') this.answer(String(n + want.from), at);
    else if (want.by === 'choice') this.answer(want.among[n - 1] ?? '', at);
    else if (want.by === 'pair' || want.by === 'board') this.answer(String(n), at);
    else if (want.by === 'cut' && n > 0 && n < want.count && !want.cuts.includes(n)) this.answer(String(n), at);
  }

  /** An answer, tapped by the child or entered by the adult: the first one, or, after help, the one that came then. */
  answer(given: string, at: number): void {
    if (this.#paused() || given === '' || this.wish.choral || this.ask().want.by === 'talk') return;
    if (this.#moment() === 'answered') return this.#answerAfterHelp(given);
    if (this.ask().want.by !== 'pair' || given.includes('+')) return this.#enter(given, at);
    const first = this.#firstPart();
    if (first !== null) this.#enter(`${first}+${given}`, at);
    else if (this.#again !== null || this.#runner?.asking) this.#firstPart.set(given);
  }
  #enter(given: string, at: number): void {
    if (this.#again !== null) this.#enterAgain(given);
    else this.#runner?.answer(given, at);
  }
  #answerAfterHelp(given: string): void {
    if (this.marks.help().length === 0 || this.helps().length === 0) return;
    this.#mark(() => this.marks.answerAgain(given));
  }

  /** Look again, a frame under it, count together …: the stage shows what helps, and the record says what it was. */
  help(help: Help): void {
    if (!this.helps().includes(help)) return;
    this.#mark(() => this.marks.addHelp(help));
    const picture = helpPicture(this.ask(), help);
    if (picture) this.#runner?.lay(picture);
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
    if (this.#again !== null) return this.#enterAgain('');
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

  /** Takes the last entry back: it stays in the record as undone, and is asked for again. After the next has begun, it leads back to the answer before. */
  undo(): void {
    if (this.#firstPart() !== null) return this.#firstPart.set(null);
    if (!this.canUndo()) return;
    if (this.#moment() !== 'answered') return this.#goBack();
    const row = this.#row();
    if (row !== null) this.#open.keep({ ...row, void: 'undone' });
    this.marks.answerTakenBack(this.#slip());
    this.#clear();
    if (this.#reopened) {
      this.#again = { row };
      this.#moment.set('stopped');
      return;
    }
    this.#moment.set('asking');
    this.#runner?.takeBack();
  }

  /** Back to the answer before: it stands as it was, and can be changed. */
  #goBack(): void {
    const before = this.#before();
    if (before === null) return;
    const wasAsking = this.#moment() === 'asking';
    this.#seenAlready = wasAsking && (this.#runner?.asking ?? false);
    this.#ready.cancel();
    this.#runner?.abandon();
    this.keeper.release();
    this.line.stepBack();
    this.#before.set(null);
    this.#reopened = true;
    // As it was marked since, in the list or before the next show.
    const row = before.row && (this.#open.find(before.row.response_id) ?? before.row);
    this.#row.set(row);
    this.#given.set(before.given);
    if (row) this.marks.take(row);
    else this.marks.clear();
    this.#moment.set('answered');
  }

  /** The number that was entered wrongly, entered anew: a spoken answer keeps its time, a tapped one has none any more. */
  #enterAgain(given: string): void {
    const was = this.#again?.row ?? null;
    this.#again = null;
    this.#firstPart.set(null);
    this.#given.set(given);
    this.#moment.set('answered');
    if (was === null) return;
    const row = again(was, this.ask(), given);
    this.marks.take(row);
    this.#change(row);
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

  /** The press in this place after an answer: what helps, or how the child did it. */
  then(place: number): void {
    const help = this.helps()[place];
    const explanation = this.explanations()[place];
    if (help) this.help(help);
    else if (explanation) this.toggleExplanation(explanation);
  }
  toggleSign(sign: Sign): void {
    if (this.canMark()) this.#mark(() => this.marks.toggleSign(sign));
  }
  toggleFiner(sign: FinerSign): void {
    if (this.canMark()) this.#mark(() => this.marks.toggleFiner(sign));
  }
  toggleExplanation(explanation: Explanation): void {
    if (this.canMark()) this.#mark(() => this.marks.toggleExplanation(explanation));
  }
  /** The same for one of the last answers, in their list. */
  markEarlier(id: string, change: (marks: AnswerMarks) => void): void {
    if (this.#row()?.response_id === id) return this.#mark(() => change(this.marks));
    this.#open.mark(id, change);
  }
  #mark(change: () => void): void {
    change();
    const row = this.#row();
    if (row !== null) this.#change({ ...row, ...this.marks.all() });
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
    if (this.#moment() === 'ready') this.ready();
  }

  disturbed(why: 'hidden' | 'blurred'): void {
    this.#runner?.disturbed(why);
  }

  next(): void {
    // Talk, and what all say together, is nothing to go back to.
    const isAnswer = this.ask().want.by !== 'talk' && !this.wish.choral;
    const before = isAnswer ? { row: this.#row(), given: this.#given() } : null;
    const goes = this.line.advance(this.#answered());
    this.#before.set(before);
    this.#given.set(null);
    this.#slip.set(null);
    this.#again = null;
    this.#reopened = false;
    this.#chips.set(new Map());
    if (!goes) return this.end();
    this.#open.closeOlder();
    if (this.#goesOnAsItStands()) this.#show(this.ask().aid);
    else this.ready();
  }

  /** Talk, and questions about a picture that stays in view, need no ready: there is nothing new to be ready for. */
  #goesOnAsItStands(): boolean {
    const { ask, child } = this.line.turn();
    const same =
      this.#shown?.child === child && JSON.stringify(this.#shown.ask.picture) === JSON.stringify(ask.picture);
    return !this.#seenAlready && !ask.flash && (same || (ask.want.by === 'talk' && this.#shown?.child === child));
  }

  #answered() {
    const row = this.#row();
    const given = this.#given() ?? '';
    return {
      ask: this.ask(),
      given,
      right: isRight(this.ask(), given),
      responseMs: row?.response_ms ?? null,
      sign: this.marks.sign(),
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
    if (this.#moment() !== 'ready') return;
    this.line.goLater();
    this.ready();
  }

  /** A child leaves the carpet, or comes back to it; what they answered stays. */
  toggleAway(child: string): void {
    const ready = this.#moment() === 'ready';
    if (!ready && (child === this.child().id || this.#moment() !== 'answered')) return;
    this.line.toggleAway(child, ready ? this.line.index() : this.line.index() + 1);
    if (ready) this.ready();
  }

  /** Ends here: what was marked stays. */
  end(): void {
    this.#ready.cancel();
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
    if (this.#again !== null || (this.#moment() !== 'asking' && this.#moment() !== 'stopped')) return;
    this.#runner?.abandon();
    this.#firstPart.set(null);
    this.keeper.release();
    // The adult sees first that the screen is back.
    this.#moment.set('ready');
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
    const how = { mode: this.mode(), spoiled: this.#spoil, askedMs: this.#askedMs(), within };
    this.#spoil = false;
    this.#change({ ...answerRow(this.#asked(ask.fact, shownAt), ask, given, how, result), ...this.#marked() });
    const board = boardAfter(ask, given);
    if (board) this.#runner?.lay(board);
    this.keeper.release();
  }
  /** What was marked before the answer stood, beside how the counters were laid. */
  #marked() {
    const slip = this.#slip();
    if (slip !== null && !this.marks.finer().includes(slip)) this.marks.toggleFiner(slip);
    return this.marks.all();
  }

  #asked(fact: string, shownAt: number) {
    return { child: this.child().id, sitting: this.id, shownAt, fact, aid: this.#aid };
  }

  #askedMs(): number | null {
    return this.ask().flash ? this.#supported().exposureMs : null;
  }

  #show(aid: Aid): void {
    this.#ready.cancel();
    const exposureMs = this.#askedMs();
    this.#aid = this.#seenAlready && this.ask().flash ? 'second-look' : aid;
    this.#seenAlready = false;
    this.#shown = { child: this.child().id, ask: this.ask() };
    this.#clear();
    this.marks.clear();
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

  #change(row: RecordRow): void {
    this.#row.set(row);
    this.#open.keep(row);
  }
}
