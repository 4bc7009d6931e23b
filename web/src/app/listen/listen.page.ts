import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { ChildView, RecordRow } from '@vane/contract';
import { DEFAULT_CARPET } from '@vane/contract';
import { factsWithinTen, isNumberFact, parseFact, type NumberFact } from '@vane/core';
import { v7 } from 'uuid';
import { Recorder } from '../carpet/sitting/recorder';
import { WholeScreen } from '../device/wholeScreen';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';
import { Outbox } from '../outbox/outbox';
import { NoChildren } from '../parts/noChildren';
import { Trouble } from '../parts/trouble';
import { needsFor } from '../plan/classPlan';
import { classRecord } from '../plan/classRecord';
import { Waiting } from '../shell/waiting';
import { Session } from '../signedIn/session';
import { HEARD, heardRow, type Heard } from './heard';
import { whenThere } from '../api/whenThere';

const MARKS: Record<Heard, string> = {
  saw: $localize`knew it`,
  'worked-out': $localize`worked it out`,
  counted: $localize`counted`,
  'not-yet': $localize`not yet`,
};
/** Facts proposed for a child at a time. */
const PROPOSED = 16;
/** Answers of one child before Vane suggests the next. */
const ENOUGH = 8;
/** Of a child of whom nothing is known. */
const BEGINNING = 5;

/** A pair of two parts: nothing that has to be seen, and nothing with a part of zero. */
function isWorthHearing(text: string): boolean {
  const fact = parseFact(text);
  return isNumberFact(fact) && !fact.parts.includes(0);
}

/** Real things on the carpet and a phone in the hand: no stage and no clock; one thumb marks what was heard. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    NoChildren,
    RouterLink,
    Trouble,
    Waiting,
  ],
  templateUrl: './listen.page.html',
  styleUrl: './listen.page.scss',
})
export class ListenPage {
  readonly #session = inject(Session);
  readonly #wholeScreen = inject(WholeScreen);
  readonly #outbox = inject(Outbox);
  readonly #now = Date.now();
  readonly record = classRecord();
  readonly numbers = [2, 3, 4, 5, 6, 7, 8, 9, 10];
  readonly marks = HEARD.map((heard) => ({ heard, words: MARKS[heard] }));

  readonly children = computed(() => whenThere(this.record, (it) => it.view.children, []));
  /** Longest unheard first. */
  readonly #order = computed(() =>
    [...this.children()].sort(
      (a, b) => (a.lastAskedAt ?? '').localeCompare(b.lastAskedAt ?? '') || a.nickname.localeCompare(b.nickname),
    ),
  );
  readonly childId = linkedSignal(() => this.#order()[0]?.id ?? '');
  readonly child = computed(() => this.children().find(({ id }) => id === this.childId()) ?? null);
  readonly cubes = signal(false);
  /** What was marked here, the newest last. */
  readonly marked = signal<readonly RecordRow[]>([]);
  readonly #own = computed(() => this.marked().filter((row) => row.child === this.childId() && row.void === ''));
  readonly had = computed(() => this.#own().length);
  readonly enough = computed(() => this.had() >= ENOUGH);
  /** A fact that the adult chose; null = the next that Vane proposes. */
  readonly wanted = signal<string | null>(null);
  readonly #proposed = computed(() => this.#propose(this.child()));
  readonly fact = computed(() => {
    const asked = this.#own().map((row) => row.fact);
    const left = this.#proposed().find((fact) => !asked.includes(fact));
    return this.wanted() ?? left ?? this.#proposed()[asked.length % this.#proposed().length] ?? '1+1';
  });
  readonly #read = computed(() => parseFact(this.fact()) as NumberFact);
  readonly shown = computed(() => words.fact(this.fact()));
  /** Adjustments for the child, as on the carpet. */
  readonly reminder = computed(() => {
    const child = this.child();
    return child?.support.map((one) => carpetWords.reminders[one](child.nickname)).join(' ') ?? '';
  });
  readonly said = computed(() => `“${carpetWords.factAloud(this.fact(), this.#words())}”`);
  readonly answer = computed(() => this.#read().answer);
  readonly #words = computed(() => whenThere(this.record, (it) => it.view.carpet, DEFAULT_CARPET).words);
  /** Who was not heard for longest, and has not been heard here. */
  readonly next = computed(() => {
    const heard = new Set(this.marked().map((row) => row.child));
    return this.#order().find(({ id }) => id !== this.childId() && !heard.has(id)) ?? null;
  });
  readonly whole = linkedSignal(() => this.child()?.workingNumber ?? BEGINNING);
  readonly choices = computed(() =>
    (['add', 'subtract', 'missing'] as const)
      .flatMap((operation) => factsWithinTen(operation))
      .filter((text) => (parseFact(text) as NumberFact).whole === this.whole())
      .map((fact) => ({ fact, words: words.fact(fact) })),
  );
  readonly told = signal('');
  #recorder: Recorder | null = null;
  #sitting = '';

  constructor() {
    // The whole of a small screen, and no other place within reach of the thumb.
    this.#wholeScreen.taken.set(true);
    inject(DestroyRef).onDestroy(() => {
      this.#recorder?.close();
      this.#wholeScreen.taken.set(false);
    });
  }

  unkept(): string {
    return this.#recorder?.unkept() ?? '';
  }
  choose(fact: string | null): void {
    this.wanted.set(fact);
  }
  sit(child: string): void {
    this.childId.set(child);
    this.wanted.set(null);
    this.told.set('');
  }

  mark(heard: Heard): void {
    const child = this.child();
    if (!child) return;
    this.#recorder ??= this.#begin();
    const row = heardRow(
      { child: child.id, sitting: this.#sitting, fact: this.fact(), cubes: this.cubes() },
      heard,
      Date.now(),
    );
    this.told.set($localize`${child.nickname}, ${this.shown()} – ${MARKS[heard]}`);
    this.marked.update((rows) => [...rows, row]);
    this.#recorder.keep(row);
    // The one before can no longer be taken back.
    this.#recorder.close([row.response_id]);
    this.wanted.set(null);
  }
  undo(): void {
    const last = this.marked().at(-1);
    if (last?.void !== '') return;
    const undone = { ...last, void: 'undone' };
    this.marked.update((rows) => [...rows.slice(0, -1), undone]);
    this.#recorder?.keep(undone);
    this.childId.set(last.child);
    this.wanted.set(last.fact);
    this.told.set($localize`Undone.`);
  }
  readonly canUndo = computed(() => this.marked().at(-1)?.void === '');

  #begin(): Recorder {
    this.#sitting = v7();
    return new Recorder(this.#outbox, this.#session.classId(), {
      id: this.#sitting,
      routine: 'listen-only',
      started_at: new Date().toISOString(),
      answer_mode: 'spoken',
      settings: null,
    });
  }

  /** What Vane would ask next of a child, of what can be asked without a picture. */
  #propose(child: ChildView | null): readonly string[] {
    if (child === null || !this.record.hasValue()) return [];
    const { judged } = this.record.value();
    const [next] = needsFor({ children: [child], judged, timeZone: this.#session.timeZone() }, this.#now);
    const facts = [...new Set(next?.facts.map(({ fact }) => fact).filter(isWorthHearing))].slice(0, PROPOSED);
    if (facts.length > 0) return facts;
    const whole = child.workingNumber ?? BEGINNING;
    return factsWithinTen('add').filter(
      (fact) => (parseFact(fact) as NumberFact).whole === whole && isWorthHearing(fact),
    );
  }
}
