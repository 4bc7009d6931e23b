import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { needleOf, type Standing } from '@vane/core';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Needle } from '../sail/needle';
import { pictureOf, movement, type ClassChild } from './classChildren';
import { Names } from './names';

/** Every child's place on the path: across, the number of what comes next; down the side, what is in view. Children with the same need stand in one pool. */
@Component({
  selector: 'vane-class-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Needle],
  template: `
    <div
      class="picture"
      role="group"
      i18n-aria-label
      aria-label="The class: across, the number of what comes next; down the side, what is in view"
      [style.grid-template-columns]="columnsStyle()"
      (keydown)="move($event)"
    >
      @for (row of picture().rows; track row.help) {
        <div class="level" aria-hidden="true">{{ helpOf[row.help] }}</div>
        @for (cell of row.cells; track cell.column; let last = $last) {
          <div class="cell" [class.empty]="cell.pools.length === 0">
            <span class="at" aria-hidden="true">{{ cellName(cell.column, row.help) }}</span>
            @for (pool of cell.pools; track pool.needName) {
              <div
                class="pool"
                [class.same]="pool.needName === need()"
                role="group"
                [attr.aria-label]="poolName(pool.children)"
              >
                @for (child of pool.children; track child.id) {
                  <button
                    type="button"
                    class="child"
                    [class.unheard]="!child.heardThisWeek"
                    [class.stuck]="child.stuck !== null"
                    [class.chosen]="child.id === chosen()"
                    [class.dim]="dim(child.id)"
                    [attr.aria-pressed]="child.id === chosen()"
                    [attr.aria-label]="nameOf(child)"
                    [attr.data-word]="marks()?.get(child.id)"
                    (click)="choose.emit(child.id === chosen() ? '' : child.id)"
                  >
                    @if (wayOf(child); as turn) {
                      <svg viewBox="0 0 20 20" width="16" height="16" aria-hidden="true" [style.transform]="turn">
                        <path [attr.d]="arrow" />
                      </svg>
                    }
                    <span class="name">{{ names.of(child.nickname) }}</span>
                    @if (marks()?.get(child.id); as mark) {
                      <vane-needle [as]="needleOf(mark)" [width]="26" />
                    }
                  </button>
                }
                <span class="need" aria-hidden="true">{{ titleOf(pool.children) }}</span>
              </div>
            }
          </div>
        }
      }
      <div class="level"></div>
      @for (column of picture().columns; track column.column) {
        <div class="foot" aria-hidden="true">{{ columnName(column.place) }}</div>
      }
    </div>
    <p class="legend faint">
      <span i18n>Across: the number of what comes next. Down the side: what is in view.</span>
      <span
        ><svg viewBox="0 0 20 20" width="16" height="16" aria-hidden="true"><path [attr.d]="arrow" /></svg>
        <ng-container i18n>has moved that way since {{ since() }}</ng-container></span
      >
      <span i18n><i class="line dashed"></i> not heard this week</span>
      <span i18n><i class="line heavy"></i> no change for three weeks</span>
    </p>
  `,
  styleUrl: './classPicture.scss',
})
export class ClassPicture {
  readonly names = inject(Names);
  readonly children = input.required<readonly ClassChild[]>();
  readonly chosen = input('');
  /** The day with which today is compared, in words. */
  readonly since = input.required<string>();
  /** How each child stands with what was chosen; null = nothing was. */
  readonly marks = input<ReadonlyMap<string, Standing> | null>(null);
  readonly choose = output<string>();

  readonly helpOf = pageWords.classPage.help;
  readonly markOf = words.readings.standings;
  readonly columnName = pageWords.classPage.column;
  /** Points to the right; thin where it comes from. */
  readonly arrow = 'M1 10L12 8.4V4L19 10L12 16V11.6Z';
  readonly needleOf = needleOf;
  readonly picture = computed(() => pictureOf(this.children()));
  /** The chosen child's need: who shares it is shown. */
  readonly need = computed(() => this.children().find(({ id }) => id === this.chosen())?.needName ?? null);
  readonly columnsStyle = computed(() =>
    [
      'var(--levels)',
      ...this.picture().columns.map(({ weight }) => (weight === 0 ? '28px' : `minmax(min-content, ${weight}fr)`)),
    ].join(' '),
  );

  dim(child: string): boolean {
    const need = this.need();
    return need !== null && this.children().find(({ id }) => id === child)?.needName !== need;
  }
  titleOf(children: readonly ClassChild[]): string {
    return words.plan.title(children.slice(0, 1).map(({ planned }) => planned.need));
  }
  poolName(children: readonly ClassChild[]): string {
    return $localize`${this.titleOf(children)}:need:: ${words.counted.children(children.length)}`;
  }
  cellName(column: string, help: ClassChild['place']['help']): string {
    const at = this.picture().columns.find((one) => one.column === column);
    return at ? `${this.columnName(at.place)} · ${this.helpOf[help]}` : '';
  }
  nameOf(child: ClassChild): string {
    const { place } = pageWords.classPage;
    const { then } = child;
    const wake = movement(child);
    const mark = this.marks()?.get(child.id);
    return [
      this.names.of(child.nickname),
      ...(mark ? [this.markOf[mark]] : []),
      place(child.at, child.place),
      ...(wake && then ? [$localize`before: ${place({ ...then, allKnown: false })}:place:`] : []),
      ...(child.heardThisWeek ? [] : [$localize`not heard this week`]),
      ...(child.stuck ? [$localize`no change for three weeks`] : []),
    ].join(', ');
  }
  /** The arrow's turn for the way a child has gone: to the right a larger number, upwards less help; empty where they have not moved. */
  wayOf(child: ClassChild): string {
    const found = movement(child);
    return found ? `rotate(${(-Math.atan2(found.up, found.across)).toFixed(3)}rad)` : '';
  }

  /** Arrow keys go to the next child in that direction. */
  move(event: KeyboardEvent): void {
    const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }[event.key];
    const from = event.target;
    if (!step || !(from instanceof HTMLElement)) return;
    event.preventDefault();
    const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('.child')];
    const middle = (of: HTMLElement) => {
      const { left, top, width, height } = of.getBoundingClientRect();
      return { x: left + width / 2, y: top + height / 2 };
    };
    const here = middle(from);
    const [dx = 0, dy = 0] = step;
    const far = (of: HTMLElement): number => {
      const { x, y } = middle(of);
      const [ahead, aside] = dx === 0 ? [(y - here.y) * dy, x - here.x] : [(x - here.x) * dx, y - here.y];
      return ahead > 4 ? ahead + 3 * Math.abs(aside) : Infinity;
    };
    const next = all.filter((one) => one !== from && far(one) < Infinity).sort((a, b) => far(a) - far(b))[0];
    next?.focus();
  }
}
