import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { Session } from '../signedIn/session';

/** For an adult of several classes: which of them is open. */
@Component({
  selector: 'vane-class-chooser',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatMenuModule],
  template: `
    <button matButton type="button" [matMenuTriggerFor]="classes" i18n-aria-label aria-label="Choose a class">
      {{ session.openClass()?.name }} ▾
    </button>
    <mat-menu #classes="matMenu">
      @for (one of session.me()?.classes; track one.id) {
        <button mat-menu-item type="button" (click)="session.choose(one.id)">{{ one.name }}</button>
      }
    </mat-menu>
  `,
})
export class ClassChooser {
  readonly session = inject(Session);
}
