import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { ClassReadings } from '@vane/contract';

/** Says where readings are not yet made from all answers; nothing where they are. What is shown stays until the adult looks again. */
@Component({
  selector: 'vane-still-judging',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    @let state = judged().judging;
    @if (state === 'under-way' || state === 'failed') {
      <p class="quiet" role="status">
        @if (state === 'failed') {
          <ng-container i18n>The newest answers could not be judged. They are kept, and Vane tries again.</ng-container>
        } @else {
          <ng-container i18n>Vane is still judging the newest answers.</ng-container>
        }
        <button matButton type="button" i18n (click)="again.emit()">Look again</button>
      </p>
    }
  `,
})
export class StillJudging {
  readonly judged = input.required<ClassReadings>();
  readonly again = output();
}
