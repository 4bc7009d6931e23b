import { computed, signal } from '@angular/core';
import { toRow, type CarpetSettings, type RecordRow, type SittingRow } from '@vane/contract';
import { away, back, later, parseFact, SIGNS, type Aid, type Ask, type Measured, type Response, type Sign, type Turn } from '@vane/core';
import { v7 } from 'uuid';
import type { StageListener, StageRunner } from './measurement/stageRunner';
import { stagePicture } from './stagePictures';

/** Where the adult is: `ready` to show, `asking` the child, `stopped` (it spoke: which number?), `answered`, `done`. */
export type Moment = 'ready' | 'asking' | 'stopped' | 'answered' | 'done';

export const FINER_SIGNS = ['fingers', 'lips'] as const;
export type FinerSign = (typeof FINER_SIGNS)[number];

/** Where a sitting's record goes: the outbox, behind the few calls a sitting makes. */
export interface Keeper {
  keepSitting(classId: string, row: SittingRow): Promise<void>;
  keepOpen(classId: string, row: RecordRow): Promise<void>;
  closeAll(): Promise<void>;
  hold(): void;
  release(): void;
}

export interface SittingWish {
  readonly classId: string;
  readonly settings: CarpetSettings;
  /** Who sits, by id and nickname, in the order of the turn line. */
  readonly children: readonly { readonly id: string; readonly nickname: string }[];
  /** Whose go with which question, in order; at least one. */
  readonly turns: readonly Turn[];
}

/**
 * A run through a list of questions, with one child or with several in turn: what is shown, what was answered, and what the adult adds to it. It changes
 * nothing the framework watches between onset and answer.
 */
export class Sitting implements StageListener {
  readonly id = v7();
  readonly #moment = signal<Moment>('ready');
  readonly #index = signal(0);
  readonly #turns = signal<readonly Turn[]>([]);
  /** Turns of children who are away, to be put back. */
  readonly #away = signal<ReadonlyMap<string, readonly Turn[]>>(new Map());
  readonly #row = signal<RecordRow | null>(null);
  readonly #paused = signal(false);
  /** A write to the device's own store failed: the adult must know. */
  readonly #unkept = signal('');
  #runner: StageRunner | null = null;
  #aid: Aid = 'none';
  #spoil = false;
  /** Writes in order: a later state of a response must not be overtaken by an earlier one. */
  #writes: Promise<void> = Promise.resolve();

  readonly moment = this.#moment.asReadonly();
  readonly index = this.#index.asReadonly();
  readonly paused = this.#paused.asReadonly();
  readonly unkept = this.#unkept.asReadonly();
  /** The last answer while it can still be changed. */
  readonly row = this.#row.asReadonly();
  readonly turns = this.#turns.asReadonly();
  readonly turn = computed((): Turn => this.#turns()[this.#index()]!);
  readonly ask = computed((): Ask => this.turn().ask);
  readonly child = computed(() => this.wish.children.find((c) => c.id === this.turn().child)!);
  /** The turn line: every child with the turns it has had. */
  readonly line = computed(() => {
    const before = this.#turns().slice(0, this.#index());
    return this.wish.children.map((child) => ({
      ...child,
      had: before.filter((t) => t.child === child.id).length,
      now: child.id === this.turn().child,
      away: this.#away().has(child.id),
    }));
  });
  readonly sign = computed(() => SIGNS.find((sign) => this.#row()?.observed.split(':')[0] === sign) ?? null);
  readonly finer = computed(() => FINER_SIGNS.filter((sign) => this.#row()?.observed.split(':')[1]?.split(' ').includes(sign)));
  /** The answer stands and the stage is still: signs, undo, second look are open. */
  readonly canAmend = computed(() => this.#moment() === 'answered' && this.#row() !== null);

  constructor(
    readonly wish: SittingWish,
    private readonly keeper: Keeper,
    startedAt: Date,
  ) {
    const { classId, settings } = wish;
    this.#turns.set(wish.turns);
    const row = { id: this.id, routine: settings.routine, started_at: startedAt.toISOString(), answer_mode: settings.answerMode, settings };
    this.#write(() => keeper.keepSitting(classId, row));
  }

  /** The stage to run on; until then the sitting waits. */
  attach(runner: StageRunner): void {
    this.#runner = runner;
  }

  /** Space: shows, stops the clock, or goes on, whichever is next. */
  goOn(at: number): void {
    if (this.#paused()) return;
    const moment = this.#moment();
    if (moment === 'ready') this.#show(this.ask().aid);
    else if (moment === 'asking' && this.wish.settings.answerMode === 'spoken') this.#runner?.stop(at);
    else if (moment === 'answered') this.next();
  }

  /** A number, tapped by the child or marked by the adult. */
  answer(given: string, at: number): void {
    if (this.#paused()) return;
    this.#runner?.answer(given, at);
  }

  noAnswer(): void {
    if (this.#moment() === 'asking' || this.#moment() === 'stopped') this.#runner?.noAnswer();
  }

  /** The same show again. Its answer is kept apart; a first look that brought no answer is recorded as such. */
  secondLook(): void {
    if (this.#paused() || !this.ask().flash) return;
    if (this.#moment() === 'asking' && this.#runner?.asking) this.#runner.noAnswer();
    if (this.#moment() === 'answered') this.#show('second-look');
  }

  /** Takes the last mark back: it stays in the record as undone, and the number is asked for again. */
  undo(): void {
    const row = this.#row();
    if (!this.canAmend() || row === null) return;
    this.#keep({ ...row, void: 'undone' });
    this.#row.set(null);
    this.#moment.set('asking');
    this.#runner?.takeBack();
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
      // Paused before the show appeared: it begins anew afterwards.
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
    if (this.#index() + 1 >= this.#turns().length) return this.end();
    const before = this.turn().child;
    this.#row.set(null);
    this.#write(() => this.keeper.closeAll());
    this.#index.update((index) => index + 1);
    // Another child has to come to the stage first.
    if (this.turn().child === before) this.#show(this.ask().aid);
    else this.#moment.set('ready');
  }

  /** Whoever is to go now goes later. */
  goLater(): void {
    if (this.#moment() === 'ready') this.#turns.update((turns) => later(turns, this.#index()));
  }

  /** A child leaves the carpet, or comes back to it; what it has answered stays. The last one left cannot leave: the sitting is ended instead. */
  toggleAway(child: string): void {
    if (this.#moment() !== 'ready' && (child === this.turn().child || this.#moment() !== 'answered')) return;
    const at = this.#moment() === 'ready' ? this.#index() : this.#index() + 1;
    const gone = this.#away().get(child);
    if (gone) {
      this.#turns.update((turns) => back(turns, at, gone));
      this.#away.update((away) => new Map([...away].filter(([id]) => id !== child)));
      return;
    }
    const { turns, taken } = away(this.#turns(), at, child);
    if (taken.length === 0 || turns.length <= at) return;
    this.#turns.set(turns);
    this.#away.update((away) => new Map(away).set(child, taken));
  }

  /** Ends here: what was marked stays. */
  end(): void {
    this.#runner?.abandon();
    this.#row.set(null);
    this.#paused.set(false);
    this.#moment.set('done');
    this.keeper.release();
    this.#write(() => this.keeper.closeAll());
  }

  stopped(): void {
    this.#moment.set('stopped');
  }

  answered(given: string, result: Measured, shownAt: number): void {
    const fact = parseFact(this.ask().fact);
    const { settings } = this.wish;
    const response: Response = {
      id: v7(),
      child: this.turn().child,
      sitting: this.id,
      shownAt,
      kind: fact.kind,
      fact: fact.text,
      answerMode: settings.answerMode,
      exposureMs: result.exposureMs,
      responseMs: given === '' ? null : result.responseMs,
      given,
      outcome: given === '' ? 'none' : Number(given) === fact.answer ? 'correct' : 'wrong',
      sign: null,
      finerSigns: [],
      aid: this.#aid,
      void: this.#spoil ? 'spoiled' : '',
      flags: result.flags,
    };
    this.#spoil = false;
    const quality = { asked_ms: this.#askedMs(), frame_ms: result.frameMs, frames_ms: result.framesMs.slice(0, 600), dropped_frames: result.droppedFrames };
    this.#change(toRow(response, quality));
    this.#moment.set('answered');
    this.keeper.release();
  }

  #askedMs(): number | null {
    return this.ask().flash ? this.wish.settings.exposureMs : null;
  }

  #show(aid: Aid): void {
    const { picture, cover } = stagePicture(this.ask().picture);
    const exposureMs = this.#askedMs();
    this.#aid = aid;
    this.#row.set(null);
    this.keeper.hold();
    this.#moment.set('asking');
    this.#runner?.begin({ picture, cover: exposureMs === null ? null : cover, exposureMs, answerMode: this.wish.settings.answerMode });
  }

  #observe(sign: Sign | null, finer: readonly string[]): void {
    const row = this.#row();
    if (!this.canAmend() || row === null) return;
    this.#change({ ...row, observed: finer.length > 0 ? `${sign ?? ''}:${finer.join(' ')}` : (sign ?? '') });
  }

  #change(row: RecordRow): void {
    this.#row.set(row);
    this.#keep(row);
  }

  #keep(row: RecordRow): void {
    this.#write(() => this.keeper.keepOpen(this.wish.classId, row));
  }

  #write(work: () => Promise<void>): void {
    this.#writes = this.#writes.then(work).catch((error: unknown) => {
      this.#unkept.set(`This device could not keep the last answer (${error instanceof Error ? error.message : String(error)}).`);
    });
  }
}
