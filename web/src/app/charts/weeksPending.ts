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
      <p role="status">Judging past weeks as they stood then: {{ past().pending }} to come …</p>
      <mat-progress-bar [value]="progress()" aria-label="Past weeks judged" />
    }
  `,
})
export class WeeksPending {
  readonly past = input.required<OverTime>();
  readonly progress = computed(
    () => (100 * this.past().weeks.length) / Math.max(1, this.past().weeks.length + this.past().pending),
  );
}
