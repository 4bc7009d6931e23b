import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { printRequest, type PrintRequest } from '@vane/contract';
import {
  CARD_SIZE_NAMES,
  LAYOUTS,
  MATS,
  mostOn,
  PAPERS,
  PRINT_NAMES,
  PRINTS,
  type LayoutName,
  type Needs,
  type PaperName,
  type PrintName,
} from '@vane/core';
import { map, switchMap, timer } from 'rxjs';
import { NoChildren } from '../parts/noChildren';
import { paperWords } from '../language/paperWords';
import { words } from '../language/words';
import { Doing } from '../parts/doing';
import { saveFile } from '../parts/saveFile';
import { FirstVisit } from '../parts/firstVisit';
import { Trouble } from '../parts/trouble';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { GroupSheets } from './groupSheets';
import { OPEN_PDF } from './pdfPages';
import { Preview } from './preview';
import { whenThere } from '../api/whenThere';

/** Debounce after the last change before the preview is made again, ms. */
const SETTLE_MS = 300;

const USUAL_NUMBERS: Partial<Record<PrintName, number[]>> = {
  'flash-cards': [1, 2, 3, 4, 5, 6, 7, 8, 9, 10],
  'pair-cards': [5],
  'crossed-off-cards': [5],
  dominoes: [5, 6],
  'sentence-cards': [5],
  'fill-and-write': [5],
  'all-the-ways': [5],
};

/** Everything that can be chosen, as it usually is. */
function formOf(fill: NonNullableFormBuilder) {
  const usual = printRequest.parse({ what: 'flash-cards' });
  return fill.group({ ...usual, layouts: fill.control(usual.layouts), numbers: fill.control(usual.numbers) });
}

/** Print */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FirstVisit,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    ReactiveFormsModule,
    Trouble,
    Preview,
    GroupSheets,
    NoChildren,
  ],
  templateUrl: './prints.page.html',
  styleUrl: './prints.page.scss',
})
export class PrintsPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);

  /** From the address: the print and the child to begin with. */
  readonly what = input<string>();
  readonly child = input<string>();
  readonly children = input<string>();
  /** A group sheet that was just made. */
  readonly sheet = input<string>();

  readonly entries = PRINT_NAMES.map((name) => ({ name, title: paperWords.names[name].title }));
  readonly layouts = LAYOUTS.map((layout) => ({ layout, words: words.layouts[layout] }));
  readonly mats = MATS.map((mat) => ({ mat, words: paperWords.mats[mat] }));
  readonly sizes = CARD_SIZE_NAMES;
  readonly sizeWords = { large: $localize`large`, middle: $localize`medium`, small: $localize`small` };
  readonly papers = Object.keys(PAPERS) as PaperName[];
  readonly numbers = Array.from({ length: 11 }, (_, n) => n);
  readonly doing = new Doing();

  readonly record = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.ask('GET /classes/:classId', { classId: params }),
  });
  readonly everybody = computed(() => whenThere(this.record, (it) => it.children, []));
  readonly fields = formOf(inject(NonNullableFormBuilder));
  readonly wish = toSignal(this.fields.valueChanges.pipe(map((): PrintRequest => this.fields.getRawValue())), {
    initialValue: this.fields.getRawValue(),
  });
  /** The print of the address has been chosen: none is made before. */
  readonly #begun = signal(false);
  readonly entry = computed(() => PRINTS[this.wish().what]);
  readonly told = computed(() => paperWords.names[this.wish().what]);
  readonly preview = rxResource({
    params: () => {
      const wish = this.wish();
      const ready = !(this.needs('child') && wish.child === null) && !(this.needs('children') && wish.sheet === null);
      return this.#begun() && this.#session.classId() && ready ? { classId: this.#session.classId(), wish } : undefined;
    },
    stream: ({ params: { classId, wish } }) =>
      timer(this.#made++ === 0 ? 0 : SETTLE_MS).pipe(
        switchMap(() => this.#api.bytes('POST /classes/:classId/prints', { classId, body: wish })),
      ),
  });
  /** Prints asked for: the first waits for nothing. */
  #made = 0;
  readonly invited = computed(() => (this.children() ?? '').split(',').filter(Boolean));

  constructor() {
    // What draws the preview loads while the server makes the print.
    inject(OPEN_PDF);
    effect(() => {
      // By the address alone: what is chosen afterwards must not lead back here.
      const what = PRINT_NAMES.find((name) => name === this.what()) ?? 'flash-cards';
      this.choose(what);
      if (what === 'group-sheet') this.fields.controls.sheet.setValue(this.sheet() ?? null);
      this.#begun.set(true);
    });
    // The child that was named, or the first, until another one is chosen; anew with another class.
    effect(() => {
      const everybody = this.everybody();
      const { child } = this.fields.controls;
      if (this.needs('child') && !everybody.some(({ id }) => id === child.value))
        child.setValue((everybody.find(({ id }) => id === this.child()) ?? everybody[0])?.id ?? null);
    });
  }

  needs(what: Needs): boolean {
    return (this.entry().needs as readonly Needs[]).includes(what);
  }
  choose(what: PrintName): void {
    this.fields.patchValue({ what, numbers: USUAL_NUMBERS[what] ?? [], sheet: null, support: false });
  }
  /** Numbers that one of the chosen layouts can show. */
  possible(n: number): boolean {
    return !this.needs('layouts') || this.wish().layouts.some((layout: LayoutName) => n <= mostOn(layout));
  }

  save(): void {
    if (this.preview.hasValue()) saveFile(`${this.wish().what}.pdf`, this.preview.value(), 'application/pdf');
  }
  /** Opens it where the browser prints from. */
  open(): void {
    if (!this.preview.hasValue()) return;
    window.open(
      URL.createObjectURL(new Blob([this.preview.value()], { type: 'application/pdf' })),
      '_blank',
      'noopener',
    );
  }
  saveCards(): void {
    this.doing.run(
      this.#api.bytes('POST /classes/:classId/cards.zip', { classId: this.#session.classId(), body: this.wish() }).pipe(
        switchMap((zip) => {
          saveFile(`${this.wish().what}.zip`, zip, 'application/zip');
          return [zip];
        }),
      ),
      $localize`The cards are saved, one SVG for each side.`,
    );
  }
}
