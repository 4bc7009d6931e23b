import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { AuditView, LetterView } from '@vane/contract';
import { EMPTY, Subject, catchError, exhaustMap, of, switchMap, timer } from 'rxjs';
import { Api, inWords } from '../api/api';
import { Dates } from '../signedIn/dates';
import { actWords } from '../language/actWords';

const LOOK_AGAIN_MS = 3000;

/** Activity at the school, and the simulated post: each is fetched when it is opened. */
@Component({
  selector: 'vane-school-audit',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <details (toggle)="openMail($event)">
      <summary i18n>Simulated mail folder</summary>
      <p i18n class="faint">
        Vane sends no e-mail of its own: letters stay on this machine, in the folder “mail”. Pass them on yourself.
        Links for a new password are not shown here: the person who looks after this machine finds them in that folder.
      </p>
      @for (letter of letters(); track letter.at + letter.to) {
        <article>
          <b>{{ letter.subject }}</b>
          <span i18n class="faint to">to {{ letter.to }}, {{ when(letter.at) }}</span>
          <p class="text">{{ letter.text }}</p>
        </article>
      } @empty {
        <p i18n>No letters.</p>
      }
    </details>
    <details (toggle)="openAudit($event)">
      <summary i18n>Activity</summary>
      <p i18n class="faint">
        Sign-ins, exports, overrides, corrections, moves and deletions. Entries about deleted children keep no detail.
      </p>
      <table>
        <thead>
          <tr>
            <th i18n scope="col">When</th>
            <th i18n scope="col">Who</th>
            <th i18n scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          @for (act of acts(); track act.id) {
            <tr>
              <td>{{ when(act.at) }}</td>
              <td>{{ act.by || service }}</td>
              <td>
                {{ told(act.what) }} <span class="faint">{{ act.detail }}</span>
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (more()) {
        <button i18n matButton type="button" (click)="fetch()">Earlier</button>
      }
    </details>
    @if (trouble()) {
      <p role="alert">{{ trouble() }}</p>
    }
  `,
  styleUrl: './details.scss',
})
export class SchoolAudit {
  readonly #dates = inject(Dates);
  readonly told = (act: string): string => actWords[act] ?? act;
  readonly service = $localize`whoever runs Vane`;
  readonly #api = inject(Api);
  readonly letters = signal<readonly LetterView[]>([]);
  readonly acts = signal<readonly AuditView[]>([]);
  readonly more = signal(false);
  readonly trouble = signal('');

  /** Whether the mail folder is open. A letter comes a moment after it was asked for, so an open folder is looked into again and again. */
  readonly #mail = new Subject<boolean>();

  constructor() {
    this.#mail
      .pipe(
        switchMap((open) => (open ? timer(0, LOOK_AGAIN_MS) : EMPTY)),
        exhaustMap(() => this.#api.ask('GET /school/mail').pipe(catchError((error: unknown) => of(inWords(error))))),
        takeUntilDestroyed(),
      )
      .subscribe((found) => {
        this.trouble.set(typeof found === 'string' ? found : '');
        if (typeof found !== 'string') this.letters.set(found);
      });
  }

  when(iso: string): string {
    return this.#dates.time(iso);
  }
  openMail(event: Event): void {
    this.#mail.next((event.target as HTMLDetailsElement).open);
  }
  openAudit(event: Event): void {
    if (!(event.target as HTMLDetailsElement).open) return;
    this.acts.set([]);
    this.fetch();
  }
  fetch(): void {
    const before = this.acts();
    this.#api.ask('GET /school/audit', { query: { offset: before.length } }).subscribe({
      next: (page) => {
        this.acts.set([...before, ...page]);
        this.more.set(page.length > 0 && page.length % 100 === 0);
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
