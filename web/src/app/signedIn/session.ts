import { Injectable, computed, inject, signal } from '@angular/core';
import type { Me, Sent } from '@vane/contract';
import type { DaysOff } from '@vane/core';
import { finalize, map, of, type Observable } from 'rxjs';
import { allowCopies, dropCopies } from '../offline/copies';
import { Api } from '../api/api';

const CHOSEN_CLASS = 'vane-class';

/** Who is signed in, and which of their classes is open. */
@Injectable({ providedIn: 'root' })
export class Session {
  readonly #api = inject(Api);
  readonly #me = signal<Me | null>(null);

  readonly me = this.#me.asReadonly();
  /** The class chosen on this device last, as long as it is the adult's. */
  readonly #chosen = signal(localStorage.getItem(CHOSEN_CLASS) ?? '');
  readonly openClass = computed(() => {
    const classes = this.#me()?.classes ?? [];
    return classes.find((one) => one.id === this.#chosen()) ?? classes[0] ?? null;
  });
  /** Where the school stands: its days are those of its own calendar. */
  readonly timeZone = computed(() => this.#me()?.school.timeZone ?? 'Europe/London');
  /** Holidays of the school. A copy that this device kept of who is signed in may be from before there were any. */
  readonly daysOff = computed(
    (): readonly DaysOff[] => (this.#me()?.school as Partial<Me['school']> | undefined)?.daysOff ?? [],
  );
  /** While a sign-out is under way nothing more is asked for: the server might refuse it. */
  readonly #leaving = signal(false);
  readonly classId = computed(() => (this.#leaving() ? '' : (this.openClass()?.id ?? '')));

  #arrived = (me: Me): Me => {
    void (me.locked ? dropCopies() : allowCopies(me));
    this.#me.set(me);
    return me;
  };
  #changed(change: Partial<Me>): void {
    const me = this.#me();
    if (me) this.#arrived({ ...me, ...change });
  }
  /** Asks the server once who is signed in; later calls answer from memory. */
  known(): Observable<Me> {
    const me = this.#me();
    return me === null ? this.refresh() : of(me);
  }
  signIn(email: string, password: string): Observable<Me> {
    return this.#api.ask('POST /sign-in', { body: { email, password } }).pipe(map(this.#arrived));
  }
  setUp(wish: Sent<'POST /set-up'>['body']): Observable<Me> {
    return this.#api.ask('POST /set-up', { body: wish }).pipe(map(this.#arrived));
  }
  signOut(): Observable<unknown> {
    this.#leaving.set(true);
    return this.#api.ask('POST /sign-out').pipe(
      map(() => this.forget()),
      finalize(() => this.#leaving.set(false)),
    );
  }
  /** Opens another of the adult's classes. */
  choose(classId: string): void {
    localStorage.setItem(CHOSEN_CLASS, classId);
    this.#chosen.set(classId);
  }
  /** Asks again who is signed in, after classes have changed. */
  refresh(): Observable<Me> {
    return this.#api.ask('GET /me').pipe(map(this.#arrived));
  }
  join(wish: { token: string; name: string; password: string }): Observable<Me> {
    return this.#api.ask('POST /join', { body: wish }).pipe(map(this.#arrived));
  }
  /** The adult was shown what to mind. */
  readCare(): Observable<unknown> {
    return this.#api.ask('POST /me/care-read').pipe(map(() => this.#changed({ careRead: true })));
  }
  readonly locked = computed(() => this.#me()?.locked ?? false);
  /** Another tab of this sign-in was locked, or nobody is here and the server cannot be told. */
  noteLocked(): void {
    this.#changed({ locked: true });
  }
  lock(): Observable<unknown> {
    return this.#api.ask('POST /me/lock').pipe(map(({ locked }) => this.#changed({ locked })));
  }
  /** The adult is at the device. */
  active(): Observable<unknown> {
    return this.#api.ask('POST /me/active');
  }
  unlock(pin: string): Observable<unknown> {
    return this.#api.ask('POST /me/unlock', { body: { pin } }).pipe(map(() => this.#changed({ locked: false })));
  }
  /** The server no longer knows this browser. */
  forget(): void {
    void dropCopies();
    this.#me.set(null);
  }
}
