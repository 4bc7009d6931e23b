import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormRecord, ReactiveFormsModule, type AbstractControl, type ValidatorFn } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { asksOfSheet } from '@vane/contract';
import { dateOfDay, schoolDays, parseQuestion } from '@vane/core';
import { forkJoin, from, switchMap } from 'rxjs';
import { DateField } from '../parts/dateField';
import { Doing } from '../parts/doing';
import { Trouble } from '../parts/trouble';
import { words } from '../language/words';
import { Outbox } from '../outbox/outbox';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { cellName, cellProblem, rowsOfSheet } from './keyIn';
import { whenThere } from '../api/whenThere';

const inCell: ValidatorFn = ({ value }: AbstractControl<string>) => (cellProblem(value) ? { cell: true } : null);

/** What did the helper write down? A group sheet, place by place, by the keys alone. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, MatButtonModule, ReactiveFormsModule, Trouble],
  template: `
    <div class="page">
      <h1 i18n>Enter sheet {{ code() }}</h1>
      @if (both.error()) {
        <vane-trouble [of]="both" />
      } @else if (!both.hasValue()) {
        <p i18n role="status">Loading the sheet …</p>
      } @else {
        @if (sheet(); as s) {
          <p i18n>
            Type each first answer; add <b>c</b> when the box for “counted” is ticked, as in 7c. Leave empty what was
            not asked. Enter goes down, Tab goes across.
            @if (s.keyedAt !== null) {
              <b>This sheet has already been entered.</b> Entering it again would add its answers a second time.
            }
          </p>
          <vane-date-field
            class="asked"
            i18n-label
            label="Asked on"
            [value]="day()"
            [max]="today"
            (picked)="day.set($event)"
          />
          <div class="wide">
            <table>
              <thead>
                <tr>
                  @if (same()) {
                    <th i18n scope="col">Fact</th>
                  }
                  @for (child of children(); track child.id) {
                    <th scope="col">{{ child.nickname }}</th>
                  }
                </tr>
              </thead>
              <tbody>
                @for (line of lines(); track $index; let row = $index) {
                  <tr>
                    @if (same()) {
                      <th scope="row">
                        {{ line[0]?.words }} <span class="faint">{{ line[0]?.answer }}</span>
                      </th>
                    }
                    @for (place of line; track $index; let column = $index) {
                      <td>
                        @if (place) {
                          @if (!same()) {
                            <div>
                              {{ place.words }} <span class="faint">{{ place.answer }}</span>
                            </div>
                          }
                          <input
                            [attr.aria-label]="place.nickname + ', ' + place.words"
                            [attr.aria-invalid]="cell(place.child, row).invalid"
                            [attr.data-place]="row + ' ' + column"
                            maxlength="4"
                            autocomplete="off"
                            [formControl]="cell(place.child, row)"
                            (keydown.enter)="down($event, column)"
                          />
                        }
                      </td>
                    }
                  </tr>
                }
              </tbody>
            </table>
          </div>
          <p>
            <button
              i18n
              matButton="filled"
              type="button"
              [disabled]="filled() === 0 || problems() > 0"
              (click)="keep()"
            >
              Save {{ answers() }}
            </button>
            <span i18n role="status">
              @if (problems() > 0) {
                {problems(), plural,
                  one {One entry is not a number from 0 to 10, with or without c.}
                  other {{{ problems() }} entries are not numbers from 0 to 10, with or without c.}
                }
              }
            </span>
          </p>
          @if (doing.trouble()) {
            <p role="alert">{{ doing.trouble() }}</p>
          }
        } @else {
          <p i18n>This class has no sheet with this code.</p>
        }
      }
    </div>
  `,
  styles: `
    .asked {
      display: block;
      width: 240px;
      margin: 8px 0 16px;
    }
    .wide {
      overflow-x: auto;
      margin-bottom: 16px;
    }
    td {
      padding: 2px 18px 6px 0;
      vertical-align: bottom;
    }
    th {
      text-align: left;
      font-weight: 400;
      padding: 2px 18px 2px 0;
    }
    input:not([type]) {
      width: 64px;
      height: 44px;
      font: 20px var(--plain);
      text-align: center;
      color: var(--ink);
      background: var(--paper);
      border: 1px solid var(--faint);
    }
    input[aria-invalid='true'] {
      border: 2px solid var(--plum);
    }
    [role='status'] {
      margin-left: 12px;
    }
  `,
})
export class KeyInPage {
  readonly #api = inject(Api);
  readonly #outbox = inject(Outbox);
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly code = input.required<string>();

  readonly today = dateOfDay(schoolDays(this.#session.timeZone())(Date.now()));
  readonly day = signal(this.today);
  readonly doing = new Doing();
  /** One field for each child and question, made as they are asked for. */
  readonly cells = new FormRecord<FormControl<string>>({});
  readonly #typed = toSignal(this.cells.valueChanges, { initialValue: {} });
  readonly both = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) =>
      forkJoin({
        record: this.#api.ask('GET /classes/:classId', { classId: params }),
        sheets: this.#api.ask('GET /classes/:classId/group-sheets', { classId: params }),
      }),
  });
  readonly sheet = computed(() =>
    whenThere(this.both, ({ sheets }) => sheets.find((s) => s.code === this.code()) ?? null, null),
  );
  /** Those of the sheet who are still in the class. */
  readonly children = computed(() =>
    (this.sheet()?.children ?? []).flatMap((id) =>
      whenThere(this.both, ({ record }) => record.children.find((c) => c.id === id) ?? [], []),
    ),
  );
  /** Every child is asked the same facts; those of a planned session stand as on the paper, each child's own below its name. */
  readonly same = computed(() => this.sheet()?.session === null);
  /** Line by line, the question of each child; null where a child has no more. */
  readonly lines = computed(() => {
    const sheet = this.sheet();
    if (sheet === null) return [];
    const own = this.children().map(({ id, nickname }) =>
      asksOfSheet(sheet, id).map(({ fact }) => ({
        child: id,
        nickname,
        words: words.fact(fact),
        answer: `(${parseQuestion(fact).answer})`,
      })),
    );
    return Array.from({ length: Math.max(0, ...own.map((asks) => asks.length)) }, (_, line) =>
      own.map((asks) => asks[line] ?? null),
    );
  });
  readonly #texts = computed(() => Object.values(this.#typed()).filter((text) => text?.trim()));
  readonly problems = computed(() => this.#texts().filter((text) => text && cellProblem(text)).length);
  readonly filled = computed(() => this.#texts().length);
  readonly answers = computed(() => words.counted.answers(this.filled()));

  cell(child: string, place: number): FormControl<string> {
    const name = cellName(child, place);
    if (!this.cells.contains(name))
      this.cells.addControl(name, new FormControl('', { nonNullable: true, validators: inCell }), { emitEvent: false });
    return this.cells.controls[name]!;
  }
  /** To the place below, or to the top of the next child. */
  down(event: Event, column: number): void {
    event.preventDefault();
    const here = event.target as HTMLElement;
    const placesOf = (at: number): HTMLElement[] => [
      ...(here.closest('table')?.querySelectorAll<HTMLElement>(`[data-place$=" ${at}"]`) ?? []),
    ];
    const below = placesOf(column);
    (below[below.indexOf(here) + 1] ?? placesOf(column + 1)[0])?.focus();
  }

  keep(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    const { sitting, rows } = rowsOfSheet({
      ...sheet,
      children: this.children().map((c) => c.id),
      cells: new Map(Object.entries(this.cells.getRawValue())),
      askedAt: new Date(`${this.day()}T12:00:00`).getTime(),
    });
    this.doing.run(
      from(this.#keepAll(sitting, rows)).pipe(
        switchMap(() =>
          this.#api.ask('PUT /classes/:classId/group-sheets/:code/keyed', {
            classId: this.#session.classId(),
            code: sheet.code,
          }),
        ),
      ),
      '',
      () => void this.#router.navigate(['/log']),
    );
  }

  async #keepAll(
    ...[sitting, rows]: [ReturnType<typeof rowsOfSheet>['sitting'], ReturnType<typeof rowsOfSheet>['rows']]
  ): Promise<void> {
    const classId = this.#session.classId();
    await this.#outbox.keepSitting(classId, sitting);
    for (const row of rows) await this.#outbox.keepOpen(classId, row);
    await this.#outbox.closeAll();
  }
}
