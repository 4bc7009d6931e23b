import { Injectable, computed, inject, signal } from '@angular/core';
import type { Me } from '@vane/contract';
import { firstValueFrom, tap, type Observable } from 'rxjs';
import { Api, type SetUpWish } from './api';

/** Who is signed in, and which of their classes is open. */
@Injectable({ providedIn: 'root' })
export class Session {
  readonly #api = inject(Api);
  readonly #me = signal<Me | null>(null);

  readonly me = this.#me.asReadonly();
  readonly openClass = computed(() => this.#me()?.classes[0] ?? null);
  readonly classId = computed(() => this.openClass()?.id ?? '');

  /** Asks the server once who is signed in; later calls answer from memory. */
  async known(): Promise<Me> {
    return this.#me() ?? firstValueFrom(this.#api.me().pipe(tap((me) => this.#me.set(me))));
  }
  signIn(email: string, password: string): Observable<Me> {
    return this.#api.signIn(email, password).pipe(tap((me) => this.#me.set(me)));
  }
  setUp(wish: SetUpWish): Observable<Me> {
    return this.#api.setUp(wish).pipe(tap((me) => this.#me.set(me)));
  }
  signOut(): Observable<unknown> {
    return this.#api.signOut().pipe(tap(() => this.#me.set(null)));
  }
  /** The server no longer knows this browser. */
  forget(): void {
    this.#me.set(null);
  }
}
