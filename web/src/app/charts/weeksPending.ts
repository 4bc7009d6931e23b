import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { OverTime } from '@vane/contract';

/** How far the judging of past weeks is; nothing when all are judged. */
@Component({
  selector: 'vane-weeks-pending',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatProgressBarModule],
  template: `
    @if (past().pending > 0) {
      <p i18n role="status">Judging past weeks: {{ past().pending }} to go …</p>
      <mat-progress-bar [value]="progress()" i18n-aria-label aria-label="Past weeks judged" />
    }
  `,
  styles: `
    mat-progress-bar {
      margin-bottom: 12px;
    }
  `,
})
export class WeeksPending {
  readonly past = input.required<OverTime>();
  readonly progress = computed(
    () => (100 * this.past().weeks.length) / Math.max(1, this.past().weeks.length + this.past().pending),
  );
}
