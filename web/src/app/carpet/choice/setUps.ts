import { Injectable, inject } from '@angular/core';
import { DEFAULT_CARPET, type CarpetSettings } from '@vane/contract';
import { routineOf } from '@vane/core';
import { Session } from '../../signedIn/session';

/** What belongs to a session and not to a class: where the picture is, who shows it, whose numbers, how many cards. */
type SetUp = Pick<CarpetSettings, 'screens' | 'readyMs' | 'numbers' | 'shows'>;

/** Under this name the set-up that was used last, of whatever routine. */
const LATEST = '';

/** How many cards a routine usually has. */
export const usualCards = (routine: string): number => routineOf(routine).usualCards ?? DEFAULT_CARPET.shows;

/** How each routine was set up last on this device, by class. */
@Injectable({ providedIn: 'root' })
export class SetUps {
  readonly #session = inject(Session);

  get #key(): string {
    return `vane.set-up.${this.#session.classId()}`;
  }
  #all(): Partial<Record<string, SetUp>> {
    try {
      return (JSON.parse(localStorage.getItem(this.#key) ?? '{}') ?? {}) as Partial<Record<string, SetUp>>;
    } catch {
      // Somebody else's text under this name: nothing is remembered.
      return {};
    }
  }

  /** As the routine was set up last here; null where it was not. */
  last(routine: string): SetUp | null {
    return this.#all()[routine] ?? null;
  }

  /** As anything was set up last here: a planned session begins like that, where it was not set itself. */
  planned(): SetUp | null {
    return this.last('planned') ?? this.last(LATEST);
  }

  /** As it was set up last here, or usually is. */
  of(routine: string): SetUp {
    const { screens, readyMs, numbers } = DEFAULT_CARPET;
    return this.last(routine) ?? { screens, readyMs, numbers, shows: usualCards(routine) };
  }

  keep({ routine, screens, readyMs, numbers, shows }: CarpetSettings): void {
    const setUp = { screens, readyMs, numbers, shows };
    const all = { ...this.#all(), [routine]: setUp, [LATEST]: setUp };
    localStorage.setItem(this.#key, JSON.stringify(all));
  }
}
