import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import {
  mdiAccountHeartOutline,
  mdiDatabaseLockOutline,
  mdiFlashOffOutline,
  mdiFoodAppleOutline,
  mdiTagOffOutline,
} from '@mdi/js';
import { inWords } from '../api/api';
import { Icon } from '../parts/icon';
import { Session } from '../signedIn/session';

/** What to mind, in a line each, and the rest behind it. */
const LINES = [
  {
    icon: mdiFlashOffOutline,
    title: $localize`Flashing`,
    says: $localize`A flash is one gentle showing, never a strobe.`,
    more: $localize`Vane never flashes more than twice in a second. A child with a photosensitive condition follows their own care plan; or show pictures until they answer (Show for: until answered).`,
  },
  {
    icon: mdiAccountHeartOutline,
    title: $localize`Worry`,
    says: $localize`No child sees a clock, a score or a rank. If a child gets anxious, stop.`,
    more: $localize`None should be mentioned either. A first answer is only a first answer. Play with real things instead.`,
  },
  {
    icon: mdiFoodAppleOutline,
    title: $localize`Small objects and food`,
    says: $localize`Children can choke on counters. Food needs your rules on allergies and hygiene.`,
    more: $localize`Above all under-threes, and anyone who still puts things in their mouth. Count what you give out and what comes back.`,
  },
  {
    icon: mdiTagOffOutline,
    title: $localize`Not a diagnosis, not a label`,
    says: $localize`Vane’s view is what it makes of the answers so far. You have the last word.`,
    more: $localize`It says nothing about the child. Speech, movement, language and a bad night change times. If a difficulty lasts, talk to your SENCo.`,
  },
  {
    icon: mdiDatabaseLockOutline,
    title: $localize`What is stored`,
    says: $localize`A nickname, questions, answers and times, what you entered, and notes; until you delete it.`,
    more: $localize`No birth date, no photograph, no voice. It is stored where Vane runs. You can export or delete one child’s whole record from Children. Your lead sets how long records of children who have left are kept, is reminded, and says who may use Vane with which children; ask your data protection officer about records. Local law and your setting’s policy decide what may be kept at all.`,
  },
] as const;

/** Safety guidance before using Vane with children: shown once to every adult, and to be found again in the settings. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Icon, MatButtonModule],
  templateUrl: './beforeUse.page.html',
  styles: `
    .page {
      max-width: 860px;
    }
    ul {
      list-style: none;
      margin: 12px 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 40px minmax(0, 1fr);
      gap: 12px;
      padding: 10px 0;
      border-top: 1px solid var(--sand);
    }
    vane-icon {
      color: var(--tide);
    }
    h2 {
      font-size: 20px;
    }
    summary {
      min-height: 44px;
      list-style: none;
      cursor: pointer;
    }
    summary::-webkit-details-marker {
      display: none;
    }
    u {
      color: var(--tide);
    }
    details[open] u {
      display: none;
    }
    .go button {
      height: 48px;
    }
  `,
})
export class BeforeUsePage {
  readonly lines = LINES;
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
