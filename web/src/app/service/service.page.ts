import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import {
  FormControl,
  type FormGroupDirective,
  NonNullableFormBuilder,
  ReactiveFormsModule,
  Validators,
} from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { ActivatedRoute, Router } from '@angular/router';
import { of, switchMap, tap } from 'rxjs';
import { Api } from '../api/api';
import { Doing } from '../parts/doing';
import { Person } from '../parts/person';
import { named } from '../parts/plainWords';
import { ownTimeZone, timeZones } from '../parts/timeZones';
import { Trouble } from '../parts/trouble';
import { JoinLink } from './joinLink';
import { SchoolHereLine } from './schoolHere';

/** For whoever runs Vane: the schools that are here, and one more. Nobody is signed in: a link opens it for twelve hours. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    JoinLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
    Person,
    SchoolHereLine,
    Trouble,
  ],
  templateUrl: './service.page.html',
  styleUrl: './service.page.scss',
})
export class ServicePage {
  readonly #api = inject(Api);
  readonly #router = inject(Router);
  readonly #forms = inject(NonNullableFormBuilder);
  /** Stands behind the `#` of the link, where no server and no log sees it; taken out of the address once it is used. */
  #token = inject(ActivatedRoute).snapshot.fragment ?? '';

  readonly here = rxResource({
    stream: () =>
      (this.#token === '' ? of(undefined) : this.#api.ask('POST /service/open', { body: { token: this.#token } })).pipe(
        switchMap(() => this.#api.ask('GET /service/schools')),
        tap(() => {
          if (this.#token !== '') void this.#router.navigate([], { replaceUrl: true });
          this.#token = '';
        }),
      ),
  });
  readonly search = new FormControl('', { nonNullable: true });
  readonly #wanted = toSignal(this.search.valueChanges, { initialValue: '' });
  readonly found = computed(() =>
    this.here.hasValue() ? this.here.value().schools.filter(({ name }) => named([name], this.#wanted())) : [],
  );
  readonly shards = computed(() => (this.here.hasValue() ? this.here.value().shards : []));
  readonly zones = timeZones(ownTimeZone());
  readonly doing = new Doing();
  readonly link = signal('');
  readonly wish = this.#forms.group({
    name: ['', [Validators.required, Validators.pattern(/\S/)]],
    lead: this.#forms.group({
      name: ['', [Validators.required, Validators.pattern(/\S/)]],
      email: ['', [Validators.required, Validators.email]],
    }),
    timeZone: ownTimeZone(),
    shard: 'first',
  });

  open(wished: FormGroupDirective): void {
    this.link.set('');
    this.doing.run(this.#api.ask('POST /service/schools', { body: this.wish.getRawValue() }), '', ({ link }) => {
      this.link.set(link);
      wished.resetForm();
      this.here.reload();
    });
  }
}
