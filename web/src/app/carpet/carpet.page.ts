import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import type { CarpetSettings, ChildView } from '@vane/contract';
import { dealTurns, routineOf, seeded, sittingAsks, type WarmUp } from '@vane/core';
import { Trouble } from '../look/trouble';
import { Outbox } from '../outbox/outbox';
import { Api } from '../session/api';
import { Session } from '../session/session';
import { WholeScreen } from '../shell/wholeScreen';
import { CarpetChoice, type Chosen } from './carpetChoice';
import { CarpetRun } from './carpetRun';
import { Sitting } from './sitting';

/** Whose go, what now, what did they say? First the choice, then the sitting. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Trouble, CarpetChoice, CarpetRun],
  template: `
    @if (running(); as run) {
      <vane-carpet-run [sitting]="run.sitting" (again)="begin({ children: run.children, settings: run.settings, warmUpOf: noWarmUp })" (left)="leave()" />
    } @else if (view.hasValue()) {
      <vane-carpet-choice [children]="view.value().children" [settings]="settings()" [childId]="child()" (begin)="begin($event)" />
    } @else if (view.error()) {
      <div class="page"><vane-trouble [error]="view.error()" (again)="view.reload()" /></div>
    } @else {
      <div class="page"><p role="status">Fetching the class …</p></div>
    }
  `,
})
export class CarpetPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #outbox = inject(Outbox);
  readonly #wholeScreen = inject(WholeScreen);
  #endSitting: (() => void) | null = null;

  /** From the address: the child chosen on Today. */
  readonly child = input<string>();
  readonly view = rxResource({ params: () => this.#session.classId() || undefined, stream: ({ params }) => this.#api.classView(params) });
  readonly #used = signal<CarpetSettings | null>(null);
  readonly settings = computed(() => this.#used() ?? (this.view.hasValue() ? this.view.value().carpet : null));
  readonly running = signal<{ sitting: Sitting; children: readonly ChildView[]; settings: CarpetSettings } | null>(null);
  readonly noWarmUp = (): WarmUp => 'none';

  constructor() {
    inject(DestroyRef).onDestroy(() => this.leave());
  }

  begin({ children, settings, warmUpOf }: Chosen): void {
    this.leave();
    const classId = this.#session.classId();
    const random = seeded(crypto.getRandomValues(new Uint32Array(1))[0] ?? 1);
    const routine = routineOf(settings.routine);
    // Each child on questions of its own, in turn.
    const turns = dealTurns(children.map((child) => ({ child: child.id, asks: sittingAsks(random, routine, { ...settings, warmUp: warmUpOf(child) }) })));
    this.#used.set(settings);
    // Remembering the choice is a courtesy: the sitting does not wait for it, and a failure only means that it is asked again next time.
    this.#api.saveCarpet(classId, settings).subscribe({ error: () => undefined });
    this.#endSitting = this.#outbox.beginSitting();
    this.#wholeScreen.taken.set(true);
    this.running.set({ sitting: new Sitting({ classId, children, settings, turns }, this.#outbox, new Date()), children, settings });
  }

  leave(): void {
    const run = this.running();
    if (run && run.sitting.moment() !== 'done') run.sitting.end();
    this.#endSitting?.();
    this.#endSitting = null;
    this.#wholeScreen.taken.set(false);
    this.running.set(null);
  }
}
