import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { inWords } from '../api/api';
import { Session } from '../signedIn/session';

/** Safety guidance before using Vane with children: shown once to every adult, and to be found again in the settings. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  templateUrl: './beforeUse.page.html',
  styles: `
    .page {
      max-width: 860px;
    }
    h2 {
      font-size: 22px;
      margin: 20px 0 4px;
    }
    .go {
      margin-top: 24px;
    }
  `,
})
export class BeforeUsePage {
  readonly session = inject(Session);
  readonly #router = inject(Router);
  readonly trouble = signal('');

  read(): void {
    this.session.readCare().subscribe({
      next: () => void this.#router.navigateByUrl('/today'),
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
