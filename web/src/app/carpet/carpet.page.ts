import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import type { CarpetSettings, ChildView } from '@vane/contract';
import { applySupport, routineOf, ROUTINES, seeded, warmUpNeeded, type WarmUp } from '@vane/core';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';
import { Trouble } from '../parts/trouble';
import { Outbox } from '../outbox/outbox';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { WholeScreen } from '../device/wholeScreen';
import { ChosenPlan } from '../plan/chosenPlan';
import { CarpetChoice } from './choice/carpetChoice';
import { SetUps, usualCards } from './choice/setUps';
import { CarpetRun } from './carpetRun';
import { FarScreens, type OtherScreen } from './otherScreen/otherScreen';
import { Sitting } from './sitting/sitting';
import { sittingWish, type Chosen } from './sitting/sittingWish';
import { whenThere } from '../api/whenThere';

const PLANNED = 'planned';

/** The Carpet page: first the choice, then the session. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Trouble, CarpetChoice, CarpetRun],
  template: `
    @if (running(); as run) {
      <vane-carpet-run
        [sitting]="run.sitting"
        [far]="run.far"
        [title]="title()"
        [next]="nextTitle()"
        (onward)="onward()"
        (leftOut)="leaveOutScreen()"
        (again)="
          begin({ children: run.children, settings: run.settings, choral: run.sitting.wish.choral, warmUpOf: noWarmUp })
        "
        (left)="leave()"
      />
    } @else if (view.hasValue()) {
      <vane-carpet-choice
        [children]="view.value().children"
        [settings]="settings()"
        [childId]="child()"
        [used]="view.value().routinesUsed"
        [className]="view.value().name"
        [others]="plan()?.children ?? []"
        [planned]="plan()?.needs ?? null"
        (begin)="begin($event)"
      />
    } @else if (view.error()) {
      <div class="page"><vane-trouble [of]="view" /></div>
    } @else {
      <div class="page"><p i18n role="status">Loading the class …</p></div>
    }
  `,
})
export class CarpetPage {
  readonly #api = inject(Api);
  readonly #router = inject(Router);
  readonly #session = inject(Session);
  readonly #outbox = inject(Outbox);
  readonly #wholeScreen = inject(WholeScreen);
  readonly #chosenPlan = inject(ChosenPlan);
  readonly #farScreens = inject(FarScreens);
  #endSitting: (() => void) | null = null;

  /** From the address: the child and the routine chosen on Today. */
  readonly child = input<string>();
  readonly routine = input<string>();
  /** It begins at once, as this class answered last. */
  readonly straight = input<string>();
  readonly view = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.ask('GET /classes/:classId', { classId: params }),
  });
  /** The plan chosen on Today, when that is where the adult comes from. It lives as long as the page: after a reload the carpet is set by hand. */
  readonly plan = computed(() => (this.routine() === PLANNED ? this.#chosenPlan.sitting() : null));
  /** What is running, where a plan says it. */
  readonly title = computed(() => {
    const run = this.running();
    const plan = this.plan();
    if (run === null || plan === null) return '';
    return plan.opener !== null || run.settings.routine === PLANNED ? this.#titleOf(run) : '';
  });
  /** What begins in one press, one after another: a planned session alone, or carpet time with its opener and close; or one child with the routine of the address. */
  readonly parts = computed((): readonly Chosen[] => {
    const plan = this.plan();
    const settings = this.settings();
    if (settings === null || !this.view.hasValue()) return [];
    const alone = this.straight() !== undefined && settings.routine === this.routine() ? [this.child()] : [];
    const all = this.view.value().children;
    const children = (plan?.children ?? alone).flatMap((id) => all.find((child) => child.id === id) ?? []);
    if (children.length === 0) return [];
    const session: Chosen = {
      children,
      settings: plan ? settings : { ...settings, numbers: 'own' },
      choral: false,
      warmUpOf: ({ measures, support }) => warmUpNeeded(measures, applySupport(settings, support).answerMode),
    };
    const opener = plan?.opener ?? null;
    if (opener === null) return [session];
    const more = { children, warmUpOf: this.noWarmUp };
    return [
      { ...more, settings: { ...settings, routine: opener, shows: usualCards(opener) }, choral: true },
      session,
      { ...more, settings: { ...settings, routine: 'close', numbers: 'own' }, choral: false },
    ];
  });
  readonly part = signal(0);
  readonly nextTitle = computed(() => {
    const next = this.parts()[this.part() + 1];
    return next === undefined ? '' : this.#titleOf(next);
  });
  readonly #titleOf = ({ settings: { routine } }: Pick<Chosen, 'settings'>): string =>
    routine === PLANNED
      ? words.plan.title(this.plan()?.needs ?? [])
      : carpetWords.routines[routineOf(routine).id].title;
  readonly #used = signal<CarpetSettings | null>(null);
  readonly #setUps = inject(SetUps);
  readonly settings = computed((): CarpetSettings | null => {
    const used = this.#used() ?? whenThere(this.view, (it) => it.carpet, null);
    const wished = ROUTINES.find(({ id }) => id === this.routine())?.id;
    if (!used || wished === undefined || (wished === PLANNED && this.plan() === null)) return used;
    if (wished === PLANNED) return { ...used, ...this.#setUps.planned(), routine: wished };
    const own = wished === used.routine ? this.#setUps.last(wished) : this.#setUps.of(wished);
    return { ...used, ...own, routine: wished };
  });
  readonly running = signal<{
    sitting: Sitting;
    far: OtherScreen | null;
    children: readonly ChildView[];
    settings: CarpetSettings;
  } | null>(null);
  readonly noWarmUp = (): WarmUp => 'none';

  constructor() {
    inject(DestroyRef).onDestroy(() => this.leave());
    const begun = effect(() => {
      const [first] = this.parts();
      if (this.straight() === undefined || first === undefined) return;
      begun.destroy();
      untracked(() => this.begin(first));
      // Loaded again, the page does not begin by itself.
      void this.#router.navigate([], {
        queryParams: { straight: null },
        queryParamsHandling: 'merge',
        replaceUrl: true,
      });
    });
  }

  /** The next part of carpet time. */
  onward(): void {
    const next = this.parts()[this.part() + 1];
    if (next === undefined) return;
    this.part.update((part) => part + 1);
    this.begin(next);
  }

  begin(chosen: Chosen): void {
    this.leave();
    const { children, settings } = chosen;
    const classId = this.#session.classId();
    const random = seeded(crypto.getRandomValues(new Uint32Array(1))[0] ?? 1);
    const isOwnChoice = (this.plan()?.opener ?? null) === null;
    if (isOwnChoice) this.#used.set(settings);
    // Where the picture is belongs to this device. A plan is the day's, no choice of the class. Remembering the choice is a courtesy: the sitting does not wait for it, and a failure only means that it is asked again next time.
    if (isOwnChoice && settings.routine !== PLANNED)
      this.#api
        .ask('PUT /classes/:classId/carpet', { classId, body: { ...settings, screens: 'one' } })
        .subscribe({ error: () => undefined });
    this.#endSitting = this.#outbox.beginSitting();
    this.#wholeScreen.taken.set(true);
    const classmates = whenThere(this.view, (view) => view.children, children);
    const factsOf = this.plan()?.factsOf;
    // What opens carpet time gives none of the session's own questions away.
    const spared = chosen.choral ? [...(factsOf?.values() ?? [])].flatMap((asks) => asks.map(({ fact }) => fact)) : [];
    const wish = sittingWish(chosen, { classId, classmates, factsOf, spared }, random);
    const sitting = new Sitting(wish, this.#outbox, () => Date.now());
    const far = settings.screens === 'one' ? null : this.#farScreens.open(classId, sitting);
    this.running.set({ sitting, far, children, settings });
  }

  /** Goes on with this screen alone, where the other does not come: what is asked is asked again here. */
  leaveOutScreen(): void {
    const run = this.running();
    if (!run?.far) return;
    run.sitting.lost();
    run.far.close();
    this.running.set({ ...run, far: null, settings: { ...run.settings, screens: 'one' } });
  }

  leave(): void {
    const run = this.running();
    if (run && run.sitting.moment() !== 'done') run.sitting.end();
    run?.far?.close();
    this.#endSitting?.();
    this.#endSitting = null;
    this.#wholeScreen.taken.set(false);
    this.running.set(null);
  }
}
