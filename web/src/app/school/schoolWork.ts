import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { WorkView } from '@vane/contract';
import { Api, inWords } from '../api/api';
import { Dates } from '../signedIn/dates';

/** Judging that waits, is being done, or has failed, class by class: fetched when it is opened. */
@Component({
  selector: 'vane-school-work',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <details (toggle)="opened($event)">
      <summary i18n>Judging under way</summary>
      <p i18n class="faint">
        Vane judges new answers by itself, a few seconds after they come. What failed is tried again when somebody opens
        the class.
      </p>
      @if (work(); as all) {
        @if (all.length === 0) {
          <p i18n role="status">Nothing waits: all answers are judged.</p>
        } @else {
          <table>
            <thead>
              <tr>
                <th i18n scope="col">Class</th>
                <th i18n scope="col">What</th>
                <th i18n scope="col">State</th>
              </tr>
            </thead>
            <tbody>
              @for (one of all; track $index) {
                <tr>
                  <td>{{ one.className }}</td>
                  <td>
                    @if (one.what === 'judge') {
                      <ng-container i18n>newest answers</ng-container>
                    } @else {
                      <ng-container i18n>past weeks</ng-container>
                    }
                  </td>
                  <td>
                    @switch (one.state) {
                      @case ('failed') {
                        <ng-container i18n>failed, {{ when(one.since) }}</ng-container>
                      }
                      @case ('waiting') {
                        <ng-container i18n>waiting since {{ when(one.since) }}</ng-container>
                      }
                      @default {
                        <ng-container i18n>being judged since {{ when(one.since) }}</ng-container>
                      }
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        }
        <button i18n matButton type="button" (click)="fetch()">Look again</button>
      }
      @if (trouble()) {
        <p role="alert">{{ trouble() }}</p>
      }
    </details>
  `,
  styleUrl: './details.scss',
})
export class SchoolWork {
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly work = signal<readonly WorkView[] | null>(null);
  readonly trouble = signal('');

  when(iso: string): string {
    return this.#dates.time(iso);
  }
  opened(event: Event): void {
    if ((event.target as HTMLDetailsElement).open) this.fetch();
  }
  fetch(): void {
    this.#api.ask('GET /school/work').subscribe({
      next: (work) => {
        this.work.set(work);
        this.trouble.set('');
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
