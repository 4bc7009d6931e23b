import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { type FormGroupDirective, NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { SchoolHere } from '@vane/contract';
import { Api } from '../api/api';
import { labels } from '../language/labels';
import { words } from '../language/words';
import { Doing } from '../parts/doing';
import { Person } from '../parts/person';
import { JoinLink } from './joinLink';

/** One school, as whoever runs Vane sees it: how much is in it, what it may have, and a link for another lead. */
@Component({
  selector: 'vane-school-here',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [JoinLink, MatButtonModule, MatFormFieldModule, MatInputModule, Person, ReactiveFormsModule],
  template: `
    <b>{{ school().name }}</b>
    <span>{{ size() }}</span>
    <span class="faint">
      @if (severalShards()) {
        <ng-container i18n>Database “{{ school().shard }}”.</ng-container>
      }
      @if (school().moving) {
        <strong i18n>Being moved.</strong>
      }
      @if (school().failed > 0) {
        <strong>{{ failed() }}</strong>
      }
    </span>
    <button
      type="button"
      class="more"
      [attr.aria-expanded]="open()"
      [attr.aria-label]="labels.change(school().name)"
      (click)="open.set(!open())"
    >
      …
    </button>
    @if (open()) {
      <div class="change">
        @if (doing.trouble()) {
          <p i18n role="alert">{{ doing.trouble() }} Nothing was changed.</p>
        }
        <p class="told" role="status">{{ doing.told() }}</p>
        <form [formGroup]="limits" (ngSubmit)="limit()" i18n-aria-label aria-label="What the school may have">
          <mat-form-field appearance="outline">
            <mat-label i18n>Most children</mat-label>
            <input matInput type="number" min="1" formControlName="mostChildren" />
            <mat-hint i18n>Empty: any number.</mat-hint>
          </mat-form-field>
          <mat-form-field appearance="outline">
            <mat-label i18n>Replies to its letters go to</mat-label>
            <input matInput type="email" autocomplete="off" formControlName="replyTo" />
            <mat-hint i18n>Empty: to Vane’s own address.</mat-hint>
          </mat-form-field>
          <button i18n matButton="outlined" type="submit" [disabled]="limits.invalid || doing.busy()">Save</button>
        </form>
        <form
          [formGroup]="lead"
          #invited="ngForm"
          (ngSubmit)="invite(invited)"
          i18n-aria-label
          aria-label="Invite a lead"
        >
          <vane-person [of]="lead" i18n-label label="Name of a lead" />
          <button i18n matButton="outlined" type="submit" [disabled]="lead.invalid || doing.busy()">Invite</button>
        </form>
        <vane-join-link [link]="link()" />
      </div>
    }
  `,
  styleUrl: './service.page.scss',
})
export class SchoolHereLine {
  readonly labels = labels;
  readonly #api = inject(Api);
  readonly #forms = inject(NonNullableFormBuilder);
  readonly school = input.required<SchoolHere>();
  readonly severalShards = input(false);
  readonly changed = output();
  readonly open = signal(false);
  readonly link = signal('');
  readonly doing = new Doing();
  readonly size = computed(() => {
    const { adults, classes, children, mostChildren } = this.school();
    if (adults === 0) return $localize`waits for its lead to join`;
    const all = words.listed([
      words.counted.adults(adults),
      words.counted.classes(classes),
      words.counted.children(children),
    ]);
    return mostChildren === null ? all : $localize`${all} (at most ${mostChildren})`;
  });
  readonly failed = computed(() => words.counted.failures(this.school().failed));
  readonly limits = this.#forms.group({
    mostChildren: this.#forms.control<number | null>(null, [Validators.min(1), Validators.max(1_000_000)]),
    replyTo: ['', [Validators.email]],
  });
  readonly lead = this.#forms.group({
    name: ['', [Validators.required, Validators.pattern(/\S/)]],
    email: ['', [Validators.required, Validators.email]],
  });

  constructor() {
    effect(() => {
      const { mostChildren, replyTo } = this.school();
      this.limits.setValue({ mostChildren, replyTo: replyTo ?? '' });
    });
  }

  limit(): void {
    const { mostChildren, replyTo } = this.limits.getRawValue();
    const body = { mostChildren, replyTo: replyTo.trim() === '' ? null : replyTo.trim() };
    const act = this.#api.ask('PUT /service/schools/:id', { id: this.school().id, body });
    this.doing.run(act, $localize`Saved.`, () => this.changed.emit());
  }
  invite(invited: FormGroupDirective): void {
    this.link.set('');
    const act = this.#api.ask('POST /service/schools/:id/invites', {
      id: this.school().id,
      body: this.lead.getRawValue(),
    });
    this.doing.run(act, '', ({ link }) => {
      this.link.set(link);
      invited.resetForm();
    });
  }
}
