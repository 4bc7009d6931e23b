import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { AuditView, LetterView } from '@vane/contract';
import { format } from 'date-fns';
import { Api, inWords } from '../api/api';

/** What was done at the school, and the simulated post: each is fetched when it is opened. */
@Component({
  selector: 'vane-school-audit',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <details (toggle)="openMail($event)">
      <summary>Simulated mail folder</summary>
      <p class="faint">
        Vane has no post of its own: letters stay on this machine, in the folder “mail”. Hand them on yourself. Links to
        a new password are not shown here: whoever looks after this machine finds them in that folder.
      </p>
      @for (letter of letters(); track letter.at + letter.to) {
        <article>
          <b>{{ letter.subject }}</b> <span class="faint">to {{ letter.to }}, {{ when(letter.at) }}</span>
          <p class="text">{{ letter.text }}</p>
        </article>
      } @empty {
        <p>No letters.</p>
      }
    </details>
    <details (toggle)="openAudit($event)">
      <summary>What was done</summary>
      <p class="faint">
        Sign-ins, exports, overrules, corrections, moves and deletions. What concerned a deleted child keeps no detail.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          @for (act of acts(); track act.id) {
            <tr>
              <td>{{ when(act.at) }}</td>
              <td>{{ act.by }}</td>
              <td>
                {{ act.what }} <span class="faint">{{ act.detail }}</span>
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (more()) {
        <button matButton type="button" (click)="fetch()">Earlier</button>
      }
    </details>
    @if (trouble()) {
      <p role="alert">{{ trouble() }}</p>
    }
  `,
  styles: `
    details {
      border-top: 1px solid var(--sand);
      padding: 12px 0;
    }
    summary {
      font: 22px var(--reading);
      min-height: 44px;
      cursor: pointer;
    }
    .text {
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    td,
    th {
      text-align: left;
      font-weight: 400;
      padding: 4px 24px 4px 0;
      vertical-align: top;
    }
    th {
      color: var(--faint);
    }
  `,
})
export class SchoolAudit {
  readonly #api = inject(Api);
  readonly letters = signal<readonly LetterView[]>([]);
  readonly acts = signal<readonly AuditView[]>([]);
  readonly more = signal(false);
  readonly trouble = signal('');

  when(iso: string): string {
    return format(new Date(iso), 'd MMM yyyy, HH:mm');
  }
  openMail(event: Event): void {
    if ((event.target as HTMLDetailsElement).open)
      this.#api.mail().subscribe({
        next: (letters) => this.letters.set(letters),
        error: (error: unknown) => this.trouble.set(inWords(error)),
      });
  }
  openAudit(event: Event): void {
    if (!(event.target as HTMLDetailsElement).open) return;
    this.acts.set([]);
    this.fetch();
  }
  fetch(): void {
    const before = this.acts();
    this.#api.audit(before.length).subscribe({
      next: (page) => {
        this.acts.set([...before, ...page]);
        this.more.set(page.length > 0 && page.length % 100 === 0);
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
