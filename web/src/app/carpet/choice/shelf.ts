import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { DEFAULT_CARPET } from '@vane/contract';
import { ROUTINE_GROUPS, ROUTINES, shelfEntry, type Routine, type RoutineId, type RoutineWish } from '@vane/core';
import { carpetWords } from '../../language/carpetWords';
import { words } from '../../language/words';
import { ShelfPicture } from './shelfPicture';

/** What each routine's picture is drawn from: nobody's own numbers. */
const WISH: RoutineWish = {
  ...DEFAULT_CARPET,
  things: DEFAULT_CARPET.words.things,
  facts: [],
  sitters: 1,
  workingNumber: null,
  times: null,
  warmUp: 'none',
  wholeFrom: 7,
  wholeTo: 7,
};
/** So many that were used lately stand first. */
const USED_FIRST = 6;

/** A routine on the shelf. */
interface Tile {
  readonly id: RoutineId;
  readonly title: string;
  readonly entry: ReturnType<typeof shelfEntry>;
  /** Everything that is searched. */
  readonly text: string;
}
const tileOf = (routine: Routine): Tile => {
  const { title, about } = carpetWords.routines[routine.id];
  const entry = shelfEntry(routine, WISH);
  const steps = entry.steps.map((step) => carpetWords.steps[step]).join(' ');
  return {
    id: routine.id,
    title,
    entry,
    text: `${title} ${about} ${carpetWords.groups[routine.group]} ${steps}`.toLowerCase(),
  };
};

/** Every routine with a small picture of its own, by its step on the path; those in use first, and found by typing. */
@Component({
  selector: 'vane-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule, RouterLink, ShelfPicture],
  template: `
    <div class="top">
      <h1 i18n>On the carpet</h1>
      <mat-form-field appearance="outline" class="find" subscriptSizing="dynamic">
        <mat-label i18n>Find a routine</mat-label>
        <input matInput type="search" [formControl]="search" />
      </mat-form-field>
      <a i18n routerLink="/listen">Listen only: no screen for the children</a>
    </div>
    @for (shelf of shelves(); track shelf.title) {
      <section [attr.aria-label]="shelf.title">
        <h2>
          {{ shelf.title }} <small>{{ shelf.steps }}</small>
        </h2>
        <ul>
          @for (tile of shelf.tiles; track tile.id) {
            <li>
              <button type="button" [attr.aria-pressed]="tile.id === chosen()" (click)="choose.emit(tile.id)">
                <vane-shelf-picture [picture]="tile.entry.picture" />
                <span class="name">{{ tile.title }}</span>
              </button>
            </li>
          }
        </ul>
      </section>
    } @empty {
      <p i18n role="status">No routine matches.</p>
    }
  `,
  styleUrl: './shelf.scss',
})
export class Shelf {
  readonly chosen = input.required<string>();
  /** Routines of the class, the last used first. */
  readonly used = input<readonly string[]>([]);
  /** A plan is there to be followed. */
  readonly planned = input(false);
  readonly choose = output<RoutineId>();
  readonly search = new FormControl('', { nonNullable: true });
  readonly wanted = toSignal(this.search.valueChanges, { initialValue: '' });

  readonly #tiles = ROUTINES.map((routine) => ({ group: routine.group, tile: tileOf(routine) }));
  readonly shelves = computed(() => {
    const wanted = this.wanted().trim().toLowerCase().split(/\s+/);
    const open = this.#tiles.filter(
      ({ tile }) => (tile.id !== 'planned' || this.planned()) && wanted.every((word) => tile.text.includes(word)),
    );
    const lately = this.used()
      .flatMap((id) => open.find(({ tile }) => tile.id === id)?.tile ?? [])
      .slice(0, USED_FIRST);
    return [
      { title: $localize`Used this month`, tiles: lately, steps: '' },
      ...ROUTINE_GROUPS.map((group) => {
        const tiles = open.filter((one) => one.group === group).map(({ tile }) => tile);
        const steps = new Set(tiles.flatMap(({ entry }) => entry.steps));
        return {
          title: words.capital(carpetWords.groups[group]),
          tiles,
          steps: [...steps].map((step) => carpetWords.steps[step]).join(' · '),
        };
      }),
    ].filter(({ tiles }) => tiles.length > 0);
  });
}
