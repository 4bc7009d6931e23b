import { EnvironmentInjector, Injectable, effect, inject, signal, type EffectRef, type Signal } from '@angular/core';
import type { ControlState, OpenedScreen, StageState } from '@vane/contract';
import { firstValueFrom } from 'rxjs';
import { Api, inWords } from '../../api/api';
import { countersOf } from '../sitting/counters';
import type { Sitting } from '../sitting/sitting';
import { Clock, withinOf } from './clock';
import { OtherStage } from './otherStage';
import { ScreenLink, type LinkState } from './link';

/** Another screen that belongs to a sitting, as the adult's screen shows it. */
export interface OtherScreen {
  /** Code to type there; empty once the screen is connected. */
  readonly code: Signal<string>;
  /** Where another device joins, and the same as a QR code; null where it cannot. */
  readonly join: Signal<OpenedScreen['join']>;
  readonly link: Signal<LinkState>;
  /** How well the clocks are matched, in words; empty while that is not known. */
  readonly within: Signal<number | null>;
  readonly trouble: Signal<string>;
  close(): void;
}

const CHECK_MS = 1000;
/** Time for which a child alone sees their answer before the next question, ms. */
const NEXT_MS = 900;

/** Opens another screen for a sitting: makes it, gives its code, and carries states between the two. */
@Injectable({ providedIn: 'root' })
export class FarScreens {
  readonly #api = inject(Api);
  readonly #injector = inject(EnvironmentInjector);

  open(classId: string, sitting: Sitting): OtherScreen {
    const [code, within, trouble] = [signal(''), signal<number | null>(null), signal('')];
    const join = signal<OpenedScreen['join']>(null);
    const alone = sitting.wish.settings.screens === 'alone';
    const clock = new Clock(
      () => firstValueFrom(this.#api.clock()).then(({ at }) => at),
      () => performance.now(),
    );
    let link: ScreenLink<ControlState, StageState> | null = null;
    let id = '';
    const stage = new OtherStage(
      (state) => link?.tell(state),
      {
        stopped: () => sitting.stopped(),
        answered: (...told) => sitting.answered(...told),
        lost: () => sitting.lost(),
        joined: () => sitting.joined(),
        pressed: (given, at) => sitting.answer(given, at),
        went: (at) => {
          const builds = sitting.moment() === 'asking' && sitting.ask().want.by === 'board';
          if (builds || (alone && sitting.moment() === 'ready')) sitting.goOn(at);
        },
      },
      () => clock.match,
      () => performance.now(),
      lookOf(sitting, alone),
    );
    sitting.attach(stage);
    sitting.attachBoard(() => stage.board);
    const looking = effect(() => stage.look(lookOf(sitting, alone)), { injector: this.#injector });
    const going = alone ? this.#goesOn(sitting) : null;
    const checking = setInterval(() => stage.check(), CHECK_MS);
    let closed = false;
    const begin = async (): Promise<void> => {
      const made = await firstValueFrom(this.#api.openScreen(classId));
      if (closed) return this.#close(classId, made.id);
      id = made.id;
      code.set(made.code);
      join.set(made.join);
      link = new ScreenLink<ControlState, StageState>(
        (state) => firstValueFrom(this.#api.tellScreen(classId, id, state)),
        this.#api.screenEvents(classId, id),
        {
          heard: (state) => {
            code.set('');
            const own = clock.match;
            if (own && state.clock) within.set(Math.ceil(withinOf(own, state.clock)));
            stage.heard(state);
          },
          ended: () => trouble.set($localize`The other screen was closed.`),
          unsent: (why) => trouble.set(inWords(why)),
        },
      );
      link.start(0);
      stage.begun();
      await clock.start();
    };
    begin().catch((error: unknown) => trouble.set(inWords(error)));
    return {
      code,
      join,
      link: stage.link,
      within,
      trouble,
      close: () => {
        closed = true;
        clearInterval(checking);
        looking.destroy();
        going?.destroy();
        clock.stop();
        link?.close();
        if (id !== '') this.#close(classId, id);
      },
    };
  }

  /** What is left open is taken away by the server after a day. */
  #close(classId: string, id: string): void {
    this.#api.closeScreen(classId, id).subscribe({ error: () => undefined });
  }

  /** Where a child sits alone, the next question comes by itself. */
  #goesOn(sitting: Sitting): EffectRef {
    return effect(
      (cleanUp) => {
        if (sitting.moment() !== 'answered' || sitting.paused()) return;
        const timer = setTimeout(() => sitting.next(), NEXT_MS);
        cleanUp(() => clearTimeout(timer));
      },
      { injector: this.#injector },
    );
  }
}

const lookOf = (sitting: Sitting, alone: boolean): ControlState['look'] => ({
  moment: sitting.moment(),
  given: sitting.given(),
  firstPart: sitting.firstPart(),
  paused: sitting.paused(),
  alone,
  larger: sitting.child().support?.includes('larger') ?? false,
  choral: sitting.wish.choral,
  options: sitting.wish.settings.options,
  counters: countersOf(sitting.wish.settings),
});
