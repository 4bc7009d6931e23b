import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { ask } from '../parts/askDialog';
import { saveFile } from '../parts/saveFile';
import { words } from '../language/words';
import { givenWords } from '../parts/rowWords';
import { Outbox } from '../outbox/outbox';
import type { KeptResponse } from '../outbox/keptDatabase';

/** Answers on this device that will not be sent as things are: refused by the server, or marked by another adult. With what can be done with them. */
@Component({
  selector: 'vane-stuck',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    @if (kept().length > 0) {
      <section i18n-aria-label aria-label="Answers that cannot be sent" class="told">
        @if (refused().length > 0) {
          <p i18n>The server refused these answers; they are saved on this device:</p>
          <ul>
            @for (one of refused(); track one.id) {
              <li>{{ words(one) }}: {{ one.reason }}</li>
            }
          </ul>
        }
        @if (others().length > 0) {
          <p i18n>
            {others().length, plural,
              one {One answer was entered here by another adult, and will be sent when they sign in on this device.}
              other {
                {{ others().length }} answers were entered here by another adult, and will be sent when they sign in on
                this device.
              }
            }
          </p>
        }
        <p>
          <button i18n matButton type="button" (click)="takeOver()">Send in my name</button>
          <button i18n matButton type="button" (click)="save()">Export</button>
          <button i18n matButton type="button" (click)="throwAway()">Delete …</button>
        </p>
      </section>
    }
  `,
  styles: `
    section {
      margin: 12px 0 20px;
      padding-left: 16px;
      border-left: 3px solid var(--lamp);
    }
  `,
})
export class Stuck {
  readonly #outbox = inject(Outbox);
  readonly #dialog = inject(MatDialog);
  readonly kept = signal<readonly KeptResponse[]>([]);
  readonly refused = computed(() => this.kept().filter((one) => one.state === 'refused'));
  readonly others = computed(() => this.kept().filter((one) => one.state !== 'refused'));
  readonly #ids = computed(() => this.kept().map((one) => one.id));

  constructor() {
    void this.#look();
  }

  words({ row }: KeptResponse): string {
    return `${words.fact(row.fact)}, ${givenWords(row)}`;
  }
  takeOver(): void {
    void this.#outbox.takeOver(this.#ids()).then(() => this.#look());
  }
  /** The raw rows, for the person who looks after Vane. */
  save(): void {
    const rows = this.kept().map(({ classId, row, reason }) => ({ class: classId, ...row, reason }));
    saveFile('vane-unsent-answers.json', JSON.stringify(rows, null, 1), 'application/json');
  }
  throwAway(): void {
    const question = {
      title: $localize`Delete ${words.counted.answers(this.kept().length)} from this device?`,
      words: $localize`They are not stored anywhere else. You cannot undo this.`,
      act: $localize`Delete`,
    };
    ask(this.#dialog, question).subscribe((answer) => {
      if (answer !== null) void this.#outbox.throwAway(this.#ids()).then(() => this.#look());
    });
  }
  async #look(): Promise<void> {
    this.kept.set(await this.#outbox.stuck());
  }
}
