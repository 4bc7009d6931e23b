import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { COMMA, ENTER } from '@angular/cdk/keycodes';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule, type MatChipInputEvent } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { ChildView, GroupSheetView } from '@vane/contract';
import { mdiClose } from '@mdi/js';
import { isFact } from '@vane/core';
import { Doing } from '../parts/doing';
import { Icon } from '../parts/icon';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { needsFor } from '../plan/classPlan';
import { words } from '../language/words';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';
import { HelperLinkPart } from './helperLink';
import { whenThere } from '../api/whenThere';

const MOST_CHILDREN = 8;
const MOST_FACTS = 20;
/** Proposed for each child; what several have in common stands once. */
const FOR_EACH = 5;
/** As many as a page has room for. */
const FILLS_A_PAGE = 12;

/** Sheets for helpers: a new one with what the readings propose, and those that wait to be keyed in. */
@Component({
  selector: 'vane-group-sheets',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatChipsModule,
    MatFormFieldModule,
    MatSelectModule,
    ReactiveFormsModule,
    RouterLink,
    HelperLinkPart,
    Icon,
  ],
  template: `
    @if (openSheet(); as sheet) {
      <vane-helper-link [sheet]="sheet" (changed)="sheets.reload()" />
    }
    <h3 i18n>Another sheet</h3>
    <mat-form-field appearance="outline">
      <mat-label i18n>Children, up to {{ most }}</mat-label>
      <mat-select multiple [formControl]="chosen">
        @for (child of children(); track child.id) {
          <mat-option [value]="child.id" [disabled]="who().length >= most && !who().includes(child.id)">{{
            child.nickname
          }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
    <mat-form-field appearance="outline">
      <mat-label i18n>Facts</mat-label>
      <mat-chip-grid #grid i18n-aria-label aria-label="Facts on the sheet">
        @for (fact of facts(); track fact) {
          <mat-chip-row (removed)="without(fact)">
            {{ words(fact) }}
            <button matChipRemove type="button" [attr.aria-label]="labels.remove(words(fact))">
              <vane-icon [path]="cross" />
            </button>
          </mat-chip-row>
        }
        <input
          i18n-placeholder
          placeholder="another, such as 3+4"
          i18n-aria-label
          aria-label="Another fact"
          [matChipInputFor]="grid"
          [matChipInputSeparatorKeyCodes]="keys"
          (matChipInputTokenEnd)="add($event)"
        />
      </mat-chip-grid>
    </mat-form-field>
    <p class="faint" role="status">
      @if (problem(); as what) {
        {{ what }}
      } @else {
        <ng-container i18n
          >Proposed from the readings of the children chosen. Write facts as 3+4, 7-2, 3+?=8 or
          show:7:frame-fives.</ng-container
        >
      }
    </p>
    <p>
      <button
        i18n
        matButton="outlined"
        type="button"
        [disabled]="who().length === 0 || facts().length === 0"
        (click)="make()"
      >
        Make the sheet
      </button>
    </p>
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
    <h3 i18n>Sheets made before</h3>
    @if (sheets.hasValue() && sheets.value().length === 0) {
      <p i18n class="faint">None yet.</p>
    }
    <ul>
      @for (sheet of lines(); track sheet.code) {
        <li>
          <div>{{ sheet.words }}</div>
          <button i18n matButton type="button" (click)="opened.emit(sheet.code)">Open {{ sheet.code }}</button>
          <a
            i18n
            matButton
            [routerLink]="['/prints/key-in', sheet.code]"
            [attr.aria-label]="labels.enterSheet(sheet.code)"
            >Enter answers</a
          >
        </li>
      }
    </ul>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-bottom: 6px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      border-top: 1px solid var(--sand);
      padding-top: 6px;
      font-size: 15px;
    }
    .faint {
      font-size: 15px;
      margin: 0;
    }
  `,
})
export class GroupSheets {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly children = input.required<readonly ChildView[]>();
  /** Children to begin with. */
  readonly invited = input<readonly string[]>([]);
  readonly open = input<string | null>(null);
  readonly opened = output<string>();
  readonly most = MOST_CHILDREN;
  readonly doing = new Doing();

  readonly chosen = new FormControl<readonly string[]>([], { nonNullable: true });
  readonly who = toSignal(this.chosen.valueChanges, { initialValue: [] as readonly string[] });
  readonly #judged = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.readings(params),
  });
  readonly #proposed = computed(() => {
    if (!this.#judged.hasValue()) return [];
    const chosen = this.children().filter((child) => this.who().includes(child.id));
    const of = { children: chosen, judged: this.#judged.value(), timeZone: this.#session.timeZone() };
    const wanted = needsFor(of, Date.now()).map(({ facts }) => facts.slice(0, FOR_EACH).map(({ fact }) => fact));
    // Every child's first before anybody's second.
    const inTurn = Array.from({ length: FOR_EACH }, (_, i) => wanted.flatMap((facts) => facts.slice(i, i + 1))).flat();
    return [...new Set(inTurn)].slice(0, FILLS_A_PAGE);
  });
  /** Proposed for the chosen children, until the teacher edits them. */
  readonly facts = linkedSignal((): readonly string[] => this.#proposed());
  readonly keys = [ENTER, COMMA];
  readonly words = words.fact;
  readonly cross = mdiClose;
  readonly problem = signal('');
  readonly sheets = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.ask('GET /classes/:classId/group-sheets', { classId: params }),
  });
  readonly openSheet = computed(() =>
    whenThere(this.sheets, (all) => all.find(({ code }) => code === this.open()), undefined),
  );
  readonly lines = computed(() =>
    whenThere(this.sheets, (it) => it, []).map((sheet) => ({
      code: sheet.code,
      words: this.#words(sheet),
    })),
  );

  constructor() {
    effect(() => {
      const isHere = (id: string): boolean => this.children().some((c) => c.id === id);
      const invited = this.invited().filter(isHere).slice(0, MOST_CHILDREN);
      // Until somebody is chosen, and anew with another class.
      if (this.chosen.pristine || !this.chosen.value.every(isHere)) this.chosen.reset(invited);
    });
  }

  without(fact: string): void {
    this.facts.update((facts) => facts.filter((one) => one !== fact));
  }
  add({ value, chipInput }: MatChipInputEvent): void {
    const fact = value.replace(/\s/g, '').replace(/−/g, '-');
    if (fact === '') return;
    if (!isFact(fact)) return this.problem.set($localize`“${value}” is not a fact within ten.`);
    if (this.facts().length >= MOST_FACTS)
      return this.problem.set($localize`A sheet holds at most ${MOST_FACTS} facts.`);
    this.problem.set('');
    this.facts.update((facts) => [...new Set([...facts, fact])]);
    chipInput.clear();
  }
  make(): void {
    const wish = { children: [...this.who()], facts: [...this.facts()] };
    this.doing.run(
      this.#api.ask('POST /classes/:classId/group-sheets', { classId: this.#session.classId(), body: wish }),
      '',
      (sheet) => {
        this.sheets.reload();
        this.opened.emit(sheet.code);
      },
    );
  }

  #words({ children, session, madeAt, keyedAt }: GroupSheetView): string {
    const names = children.flatMap((id) => this.children().find((c) => c.id === id)?.nickname ?? []);
    const state = keyedAt === null ? $localize`not entered yet` : $localize`entered on ${this.#dates.day(keyedAt)}`;
    const what = session === null ? '' : `${words.plan.title(session.needs)}: `;
    return `${what}${words.listed(names)}, ${this.#dates.day(madeAt)}, ${state}`;
  }
}
