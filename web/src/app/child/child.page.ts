import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, untracked } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatExpansionModule } from '@angular/material/expansion';
import { Router, RouterLink } from '@angular/router';
import { toResponse, type OverruleView } from '@vane/contract';
import { DAY_MS, countMistakes, lastSession, USUAL_WORDS, workingNumber, notable, type ChildNeed } from '@vane/core';
import { switchMap } from 'rxjs';
import { Trouble } from '../parts/trouble';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Dates } from '../signedIn/dates';
import { Api, addressOf } from '../api/api';
import { Session } from '../signedIn/session';
import { EvidencePanel } from './evidencePanel';
import { Needle } from '../sail/needle';
import { VIEWS, viewOf, type View } from '../sail/sail';
import { SailMap } from '../sail/sailMap';
import { Door } from './door';
import { FirstVisit } from '../parts/firstVisit';
import { NextSteps } from './nextSteps';
import { Notes } from './notes';
import { OwnJudge } from '../judging/ownJudge';
import { classPlan } from '../plan/classRecord';
import { OverTime } from './overTime';
import { pastWeeks } from './pastWeeks';
import { SaidHow } from './saidHow';
import { Sequence } from './sequence';
import { StepChart } from './stepChart';
import { SupportForm } from './support';
import { whenThere } from '../api/whenThere';

/** What is open where nothing of a sail was asked. */
const FIRST_FACT: Readonly<Record<View, string>> = {
  seeing: 'show:1:five',
  add: '1+1',
  subtract: '2-1',
  missing: '1+?=2',
};

/** What does this child know, and how do I know? */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    RouterLink,
    Trouble,
    SailMap,
    EvidencePanel,
    Needle,
    NextSteps,
    Notes,
    OverTime,
    SaidHow,
    StepChart,
    Door,
    FirstVisit,
    MatExpansionModule,
    Sequence,
    SupportForm,
  ],
  templateUrl: './child.page.html',
  styleUrl: './child.page.scss',
})
export class ChildPage {
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #own = inject(OwnJudge);
  readonly #router = inject(Router);

  readonly childId = input.required<string>();
  /** From the address: which sail to open first. */
  readonly see = input<View>();
  /** From the address: the day to which the record is stepped back, YYYY-MM-DD. */
  readonly until = input<string>();

  readonly views = VIEWS;
  readonly record = rxResource({
    params: () =>
      this.#session.classId()
        ? { classId: this.#session.classId(), childId: this.childId(), until: this.until() }
        : undefined,
    stream: ({ params: { classId, childId, until } }) => {
      const record = this.#api.ask('GET /classes/:classId/children/:childId', { classId, childId, query: { until } });
      // What waits on this device belongs to now.
      return until ? record : record.pipe(switchMap((one) => this.#own.withKept(one)));
    },
  });
  /** The sail asked for; else, for a child who works on pairs, the one of the sums. */
  readonly view = linkedSignal<string, View>({
    // Of a child, not of each reading of the record: what the teacher chose stays when it is loaded again.
    source: () => `${whenThere(this.record, (it) => it.child.id, '')} ${this.see() ?? ''}`,
    computation: () =>
      VIEWS.find(({ view }) => view === this.see())?.view ?? (untracked(this.#number) === null ? 'seeing' : 'add'),
  });
  readonly #number = computed(() => whenThere(this.record, ({ readings }) => workingNumber(readings).number, null));
  /** What the last sitting moved: asked for once the page stands, unless this device judged and knows. */
  readonly movedThere = rxResource({
    params: () =>
      this.record.hasValue() && this.record.value().moved === null
        ? { record: this.record.value(), until: this.until() }
        : undefined,
    stream: ({ params: { record, until } }) =>
      this.#api.ask('GET /classes/:classId/children/:childId/moved', {
        classId: this.#session.classId(),
        childId: record.child.id,
        query: { until },
      }),
  });
  /** The moment that the page shows, milliseconds since 1970. */
  readonly asOf = computed(() => {
    const until = this.until();
    return until ? Date.parse(until) + DAY_MS : Date.now();
  });
  /** Asked for once the page stands: whether anything has changed for three weeks. */
  readonly #past = pastWeeks(computed(() => (this.record.hasValue() ? this.childId() : '')));
  readonly weeks = computed(() => whenThere(this.#past, (it) => (it.pending === 0 ? it.weeks : []), []));
  /** null = not known yet. */
  readonly moved = computed(() => {
    const own = whenThere(this.record, (it) => it.moved, null);
    const there = whenThere(this.movedThere, (it) => it.moved, null);
    return (
      (own ?? there)?.map((m) => ({
        ...m,
        words: words.fact(m.fact),
        was: m.before === null ? $localize`not asked` : words.readings.reading(m.before),
        now: words.readings.reading(m.after),
        why: pageWords.evidence.movedBy[m.by],
      })) ?? null
    );
  });
  /** Key of the open child and view: a computed signal, so that reloading the same record does not count as another. */
  readonly #opened = computed(() => whenThere(this.record, ({ child }) => `${child.id} ${this.view()}`, ''));
  /** The open fact: the most informative one of the child and view, until the teacher chooses another. */
  readonly chosen = linkedSignal<string, string>({
    source: this.#opened,
    computation: (source) => (source === '' ? '' : untracked(() => this.#notable()?.fact ?? FIRST_FACT[this.view()])),
  });
  readonly #notable = computed(() =>
    this.record.hasValue()
      ? notable(
          this.record.value().readings.filter((r) => viewOf(r.fact) === this.view()),
          this.#number(),
        )
      : null,
  );
  /** Why the open fact was opened; empty once another is chosen. */
  readonly whyThis = computed(() => {
    const found = this.#notable();
    if (found?.fact !== this.chosen()) return '';
    return pageWords.classPage.notable[found.why](words.inLetters(this.#number() ?? 0));
  });
  readonly nothingMoved = computed(() =>
    this.record.hasValue()
      ? pageWords.evidence.nothingMoved(lastSession(this.record.value().responses.map(toResponse)))
      : '',
  );
  readonly commonest = computed(() => this.mistakes()[0]?.words ?? '');
  readonly supported = computed(() =>
    this.record.hasValue()
      ? this.record
          .value()
          .support.supports.map((one) => pageWords.supports[one])
          .join(', ')
      : '',
  );
  /** The class's plan, so that this page says of the child what Today and Class say. */
  readonly #class = classPlan();
  readonly planned = computed((): ChildNeed | null => {
    if (!this.#class.hasValue()) return null;
    return this.#class.value().needs.find(({ child }) => child === this.childId()) ?? null;
  });
  readonly plan = computed(() => (this.#class.hasValue() ? 'there' : this.#class.error() ? 'failed' : 'loading'));
  readonly classWords = computed(() => whenThere(this.#class, (it) => it.view.carpet.words, USUAL_WORDS));
  readonly mistakes = computed(() =>
    this.record.hasValue()
      ? countMistakes(this.record.value().responses.map(toResponse)).map(({ mistake, count, newest }) => ({
          mistake,
          words: pageWords.evidence.mistakes[mistake],
          times: words.counted.times(count),
          example: $localize`such as ${newest.given} for ${words.fact(newest.fact)}`,
        }))
      : [],
  );
  readonly lastAsked = computed(() => {
    const at = whenThere(this.record, (it) => it.child.lastAskedAt, null);
    if (this.until()) return $localize`as the record stood on ${this.#dates.longDate(this.until() ?? '')}`;
    return at === null ? $localize`not asked yet` : $localize`last asked ${this.#dates.ago(at)}`;
  });

  open(fact: string): void {
    this.view.set(viewOf(fact));
    this.chosen.set(fact);
  }

  overruled(overrules: readonly OverruleView[]): void {
    if (this.record.hasValue()) this.record.set({ ...this.record.value(), overrules });
  }

  /** Steps the record back to the end of a day; an empty one is now. */
  stepTo(day: string): void {
    void this.#router.navigate([], { queryParams: { until: day || null }, queryParamsHandling: 'merge' });
  }
  file(as: 'record.json' | 'responses.csv'): string {
    return addressOf(`GET /classes/:classId/children/:childId/${as}`, {
      classId: this.#session.classId(),
      childId: this.childId(),
    });
  }
}
