import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { DayPlan } from '@vane/contract';

/** What the day is for, and how many minutes there are. Loaded once the plan stands. */
@Component({
  selector: 'vane-day-wish',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule],
  template: `
    <mat-button-toggle-group
      [value]="day().aim"
      (change)="wished.emit({ aim: $event.value })"
      i18n-aria-label
      aria-label="Aim"
      hideSingleSelectionIndicator
    >
      <mat-button-toggle i18n value="practise">practise</mat-button-toggle>
      <mat-button-toggle i18n value="judge">find out</mat-button-toggle>
    </mat-button-toggle-group>
    <mat-button-toggle-group
      [value]="day().minutes"
      (change)="wished.emit({ minutes: $event.value })"
      i18n-aria-label
      aria-label="Minutes"
      hideSingleSelectionIndicator
    >
      @for (n of lengths; track n) {
        <mat-button-toggle [value]="n">{{ n }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <span i18n class="faint">minutes</span>
    @if (changed()) {
      <button i18n matButton type="button" (click)="unchanged.emit()">Reset plan</button>
    }
    @if (planned()) {
      <button i18n matButton type="button" class="calendar" (click)="calendar.emit()">Add to calendar</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 16px;
    }
  `,
})
export class DayWish {
  readonly lengths = [4, 8, 12, 20];
  readonly day = input.required<DayPlan>();
  /** Whether the plan is another than Vane's own. */
  readonly changed = input(false);
  readonly planned = input(false);
  readonly wished = output<Partial<DayPlan>>();
  readonly unchanged = output();
  readonly calendar = output();
}
