import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { FormControl, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { NoteView } from '@vane/contract';
import type { Observable } from 'rxjs';
import { Doing } from '../parts/doing';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';

/** What adults wrote about a child. */
@Component({
  selector: 'vane-notes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <div>
      <ul>
        @for (note of notes(); track note.id) {
          <li>
            {{ note.text }} <span class="faint">{{ note.by }}, {{ day(note) }}</span>
            @if (note.own) {
              <button
                i18n
                matButton
                type="button"
                (click)="
                  send(api.ask('DELETE /classes/:classId/notes/:id', { classId: session.classId(), id: note.id }))
                "
                [attr.aria-label]="labels.deleteNote(note.text)"
              >
                Delete
              </button>
            }
          </li>
        }
      </ul>
      <form (submit)="add($event)">
        <mat-form-field appearance="outline">
          <mat-label i18n>A note for the adults who work with this child</mat-label>
          <input matInput maxlength="500" autocomplete="off" [formControl]="text" />
        </mat-form-field>
        <button i18n matButton="outlined" type="submit" [disabled]="text.invalid">Save</button>
      </form>
      @if (doing.trouble()) {
        <p role="alert">{{ doing.trouble() }}</p>
      }
    </div>
  `,
  styles: `
    h2 {
      font-size: 22px;
    }
    ul {
      list-style: none;
      margin: 8px 0;
      padding: 0;
    }
    li {
      padding: 6px 0;
      border-bottom: 1px solid var(--sand);
    }
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: flex-start;
      margin-top: 12px;
    }
    mat-form-field {
      flex: 1 1 240px;
    }
    form button {
      margin-top: 6px;
    }
  `,
})
export class Notes {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly api = inject(Api);
  readonly session = inject(Session);
  readonly childId = input.required<string>();
  readonly notes = input.required<readonly NoteView[]>();
  readonly changed = output();
  readonly text = new FormControl('', { nonNullable: true, validators: Validators.pattern(/\S/) });
  readonly doing = new Doing();

  day(note: NoteView): string {
    return this.#dates.dayOfYear(note.madeAt);
  }
  add(event: Event): void {
    event.preventDefault();
    const { value: text } = this.text;
    if (text.trim() !== '')
      this.send(
        this.api.ask('POST /classes/:classId/notes', {
          classId: this.session.classId(),
          body: { child: this.childId(), text },
        }),
        () => this.text.reset(),
      );
  }
  send(act: Observable<unknown>, then: () => void = () => undefined): void {
    this.doing.run(act, '', () => {
      then();
      this.changed.emit();
    });
  }
}
