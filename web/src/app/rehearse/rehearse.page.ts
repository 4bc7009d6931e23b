import { ChangeDetectionStrategy, Component, DestroyRef, computed, effect, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { Router } from '@angular/router';
import { toRow, type ChildRecord } from '@vane/contract';
import { HARBOUR_CHILDREN, isOpen, review, type Condition, type Review } from '@vane/core';
import type { ApexOptions } from 'apexcharts';
import type { Subscription } from 'rxjs';
import { EvidencePanel } from '../child/evidencePanel';
import { Needle } from '../sail/needle';
import { VIEWS, viewOf, type View } from '../sail/sail';
import { SailMap } from '../sail/sailMap';
import { calmChart } from '../charts/calmChart';
import { Chart } from '../charts/chart';
import { colourNow } from '../charts/colourNow';
import { words } from '../language/words';
import { DevicePreferences } from '../device/devicePreferences';
import { REHEARSE, type RehearsalNews, type RehearsalStep } from './rehearsal';

const CONDITION_WORDS: Record<Condition, string> = {
  mixed: $localize`mixed: a little of everything`,
  plain: $localize`plain: knowledge fades out slowly`,
  'heavy-tailed': $localize`with a very slow answer now and then`,
  spoken: $localize`all answers spoken, the adult enters late`,
  'no warm-ups': $localize`without numbers to copy or to count`,
  'few answers': $localize`three sessions each`,
  restless: $localize`restless: often looking away`,
  growing: $localize`learning fast`,
  holiday: $localize`back from a holiday, some forgotten`,
  'stops at a number': $localize`known up to a number and not beyond`,
  'grows, then stops': $localize`learning for half the weeks, then nothing new`,
  'one by one': $localize`learning fact by fact, each on its own day`,
  islands: $localize`pairs known beyond their number, others missing below it`,
  swaying: $localize`quick on some days, slow on others`,
  'several ways': $localize`tapped, spoken and written; signs often entered wrong`,
  'odd children': $localize`very slow, very fast and guessing children in one class`,
  'two adults': $localize`a careful and a careless adult, a tablet and a board, in turn`,
  'slower half way': $localize`a slower screen from half way on, which nobody named`,
  'hands that change': $localize`some hands grow quicker or slower over the weeks`,
  'very slow hands': $localize`one hand in four is three times as slow`,
  'counting all, no warm-ups': $localize`many count everything, and nothing was copied or counted first`,
  'growing in share': $localize`known facts come more and more often`,
  tiring: $localize`slower towards the end of each session`,
};

type Done = Extract<RehearsalNews, { what: 'done' }>;

/** A simulated class with known truth behind the same screens. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
    ReactiveFormsModule,
    Chart,
    EvidencePanel,
    Needle,
    SailMap,
  ],
  templateUrl: './rehearse.page.html',
  styleUrl: './rehearse.page.scss',
})
export class RehearsePage {
  readonly #rehearse = inject(REHEARSE);
  readonly #device = inject(DevicePreferences);
  readonly #router = inject(Router);
  #run: Subscription | null = null;

  readonly conditions = (Object.keys(CONDITION_WORDS) as Condition[]).map((condition) => ({
    condition,
    words: CONDITION_WORDS[condition],
  }));
  readonly views = VIEWS;
  readonly #fill = inject(NonNullableFormBuilder);
  readonly wish = this.#fill.group({
    children: 12,
    weeks: 6,
    condition: this.#fill.control<Condition>('mixed'),
    seed: this.#fill.control(1, Validators.required),
  });
  readonly running = signal(false);
  readonly trouble = signal('');
  readonly wordsOf = words.readings.readings;
  readonly #news = signal<Extract<RehearsalNews, { what: 'progress' }> | null>(null);
  readonly #done = signal<Done | null>(null);
  readonly child = signal('');
  readonly fact = signal('');
  readonly view = signal<View>('add');

  readonly progress = computed(() => {
    const news = this.#news();
    return this.running() && news ? { doing: stepWords(news.doing), percent: (100 * news.done) / news.of } : null;
  });
  readonly result = computed(() => {
    const done = this.#done();
    if (!done) return null;
    this.#device.theme();
    const found = review(done.judgements, done.truth);
    return {
      review: found,
      sentence: reviewSentence(found),
      names: done.judgements.map((j) => j.estimate.child),
      byAnswers: found.byAnswers.map((b) => ({
        ...b,
        label:
          b.to === Infinity
            ? $localize`${b.from} or more`
            : b.from === b.to
              ? String(b.from)
              : $localize`${b.from} to ${b.to}`,
      })),
      chart: honestyChart(found, colourNow),
      errors: found.errors.map(({ reading, retrieveShare }) => ({
        key: `${reading.child} ${reading.fact}`,
        child: reading.child,
        fact: reading.fact,
        words: $localize`${reading.child}, ${words.fact(reading.fact)}:fact:: “${words.readings.readings[reading.reading]}” in Vane’s view after ${words.counted.answers(reading.responses)}; actually remembered ${Math.round(100 * retrieveShare)} times in a hundred`,
      })),
    };
  });
  readonly record = computed((): ChildRecord | null => {
    const done = this.#done();
    const judged = done?.judgements.find((j) => j.estimate.child === this.child());
    if (!done || !judged) return null;
    const responses = done.responses.filter((r) => r.child === this.child()).map((r) => toRow(r));
    return {
      child: {
        id: this.child(),
        nickname: this.child(),
        lastAskedAt: null,
        measures: { copies: {}, counts: 0 },
        times: null,
        workingNumber: null,
        halfLifeDays: null,
        routinesUsed: [],
        support: [],
      },
      estimate: judged.estimate,
      readings: judged.readings,
      moved: [],
      overrules: [],
      notes: [],
      support: { supports: [], words: '', by: '', madeAt: null },
      door: '',
      sittings: [],
      basis: null,
      responses,
    };
  });
  readonly truthWords = computed(() => {
    const truth = this.#done()?.truth.find((t) => t.child === this.child() && t.fact === this.fact());
    return truth
      ? $localize`${this.child()} actually remembers this ${Math.round(100 * truth.retrieveShare)} times in a hundred.`
      : $localize`This was not asked.`;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.#run?.unsubscribe());
    effect(() => (this.running() ? this.wish.disable() : this.wish.enable()));
  }

  begin(): void {
    this.#done.set(null);
    this.child.set('');
    this.fact.set('');
    this.trouble.set('');
    this.running.set(true);
    const { children, ...chosen } = this.wish.getRawValue();
    const wish = { ...chosen, names: HARBOUR_CHILDREN.slice(0, children), until: Date.now() };
    this.#run = this.#rehearse(wish).subscribe({
      next: (news) => (news.what === 'progress' ? this.#news.set(news) : this.#done.set(news)),
      error: (error: unknown) => {
        this.running.set(false);
        this.trouble.set($localize`The rehearsal stopped: ${error instanceof Error ? error.message : String(error)}.`);
      },
      complete: () => this.running.set(false),
    });
  }

  cancel(): void {
    this.#run?.unsubscribe();
    this.running.set(false);
  }

  practise(): void {
    void this.#router.navigateByUrl('/rehearse/marking');
  }

  look(child: string, fact: string): void {
    this.child.set(child);
    if (fact) this.view.set(viewOf(fact));
    this.fact.set(fact);
  }
}

function stepWords(doing: RehearsalStep): string {
  switch (doing.step) {
    case 'simulate':
      return $localize`Simulating the class …`;
    case 'learn':
      return $localize`Learning from the whole class …`;
    case 'judge':
      return $localize`Judging ${doing.name} …`;
  }
}

const percent = (part: number, whole: number): string => `${Math.round((100 * part) / Math.max(1, whole))} %`;

function reviewSentence({ facts, known, words: byWord }: Review): string {
  const says = byWord.find((w) => w.word === 'knows') ?? { facts: 0, known: 0 };
  const waits = byWord.filter((w) => isOpen(w.word)).reduce((sum, w) => sum + w.facts, 0);
  const denied = byWord.filter((w) => w.word !== 'knows' && !isOpen(w.word));
  const deniedFacts = denied.reduce((sum, w) => sum + w.facts, 0);
  const deniedRight = denied.reduce((sum, w) => sum + w.facts - w.known, 0);
  return $localize`${facts} facts were asked; ${known} of them are actually known. Vane said “knows” for ${says.facts} (${percent(says.known, says.facts)} correctly) and something else for ${deniedFacts} (${percent(deniedRight, deniedFacts)} correctly); ${waits} need more answers.`;
}

function honestyChart({ bands }: Review, ink: (name: string) => string): ApexOptions {
  const inHundred = (x: number): string => `${Math.round(100 * x)}`;
  return {
    chart: calmChart('line', 260),
    series: [
      {
        name: $localize`well calibrated`,
        type: 'line',
        data: [
          { x: 0, y: 0 },
          { x: 1, y: 1 },
        ],
      },
      {
        name: $localize`this class`,
        type: 'scatter',
        data: bands
          .filter((b) => b.facts >= 5)
          .map((b) => ({ x: Number(b.said.toFixed(3)), y: Number(b.true.toFixed(3)) })),
      },
    ],
    colors: [ink('--sand'), ink('--tide')],
    stroke: { width: [2, 0] },
    markers: { size: [0, 7], strokeWidth: 0 },
    legend: { show: false },
    dataLabels: { enabled: false },
    tooltip: { enabled: false },
    grid: { borderColor: ink('--sand'), padding: { left: 4, right: 22 } },
    xaxis: {
      type: 'numeric',
      min: 0,
      max: 1,
      tickAmount: 5,
      labels: { formatter: (x: string) => inHundred(Number(x)), style: { colors: ink('--faint'), fontSize: '13px' } },
      title: {
        text: $localize`said, in a hundred`,
        style: { color: ink('--faint'), fontWeight: 400, fontSize: '13px' },
      },
      axisBorder: { color: ink('--sand') },
      axisTicks: { color: ink('--sand') },
    },
    yaxis: {
      min: 0,
      max: 1,
      tickAmount: 5,
      labels: { formatter: inHundred, style: { colors: ink('--faint'), fontSize: '13px' } },
      title: { text: $localize`so, in a hundred`, style: { color: ink('--faint'), fontWeight: 400, fontSize: '13px' } },
    },
  };
}
