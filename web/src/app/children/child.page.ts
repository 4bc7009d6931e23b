import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { Reading } from '@vane/core';
import { formatDistanceToNowStrict } from 'date-fns';
import { Trouble } from '../look/trouble';
import { factWords } from '../look/words';
import { Api } from '../session/api';
import { Session } from '../session/session';
import { EvidencePanel } from './evidencePanel';
import { Needle } from './needle';
import { VIEWS, type View } from './sail';
import { SailMap } from './sailMap';

/** What does this child know, and how do I know? */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, Trouble, SailMap, EvidencePanel, Needle],
  templateUrl: './child.page.html',
  styleUrl: './child.page.scss',
})
export class ChildPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #router = inject(Router);

  readonly childId = input.required<string>();
  /** From the address: which sail to open first. */
  readonly see = input<View>();

  readonly views = VIEWS;
  readonly record = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), childId: this.childId() } : undefined),
    stream: ({ params }) => this.#api.child(params.classId, params.childId),
  });
  readonly view = linkedSignal<View>(() => VIEWS.find(({ view }) => view === this.see())?.view ?? 'seeing');
  readonly moved = computed(() => (this.record.hasValue() ? this.record.value().moved.map((m) => ({ ...m, words: factWords(m.fact) })) : []));
  readonly chosen = linkedSignal<string>(() => (this.record.hasValue() ? this.#worthSeeing(this.record.value().readings, this.view()) : ''));
  readonly lastAsked = computed(() => {
    const at = this.record.hasValue() ? this.record.value().child.lastAskedAt : null;
    return at === null ? 'not asked yet' : `last asked ${formatDistanceToNowStrict(new Date(at))} ago`;
  });

  /** The fact to open with: the one of this sail with the most answers that is not known yet, else the one with the most. */
  #worthSeeing(readings: readonly Reading[], view: View): string {
    const shows = (fact: string): boolean => fact.startsWith('show:');
    const inView = readings.filter((r) => (view === 'seeing' ? shows(r.fact) : !shows(r.fact) && kindOf(r.fact) === view));
    const most = [...inView].sort((a, b) => Number(a.reading === 'knows') - Number(b.reading === 'knows') || b.responses - a.responses)[0];
    return most?.fact ?? (view === 'seeing' ? 'show:1:five' : { add: '1+1', subtract: '2-1', missing: '1+?=2' }[view]);
  }

  open(fact: string): void {
    if (fact.startsWith('show:')) this.view.set('seeing');
    else this.view.set(kindOf(fact));
    this.chosen.set(fact);
  }

  ask(): void {
    void this.#router.navigate(['/carpet'], { queryParams: { child: this.childId() } });
  }
}

const kindOf = (fact: string): Exclude<View, 'seeing'> => (fact.includes('?') ? 'missing' : fact.includes('-') ? 'subtract' : 'add');
