import { afterNextRender, ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import type { ChildView } from '@vane/contract';

/** What can be done about one child of the plan: a menu at the name that was pressed. Loaded when the plan already stands. */
@Component({
  selector: 'vane-swap-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatMenuModule],
  template: `
    <button
      class="at"
      type="button"
      tabindex="-1"
      aria-hidden="true"
      [style.left.px]="at().left"
      [style.top.px]="at().top"
      [style.width.px]="at().width"
      [style.height.px]="at().height"
      [matMenuTriggerFor]="menu"
      [matMenuTriggerRestoreFocus]="false"
      (menuClosed)="close()"
    ></button>
    <mat-menu #menu="matMenu">
      <button i18n mat-menu-item type="button" (click)="other.emit()">Choose another routine</button>
      <button i18n mat-menu-item type="button" (click)="away.emit()">Away today</button>
      @for (one of children(); track one.id) {
        <button i18n mat-menu-item type="button" (click)="swap.emit(one.id)">Swap with {{ one.nickname }}</button>
      }
    </mat-menu>
  `,
  styles: `
    .at {
      position: fixed;
      pointer-events: none;
      visibility: hidden;
    }
  `,
})
export class SwapMenu {
  /** Whom it can change places with. */
  readonly children = input.required<readonly ChildView[]>();
  /** The name that was pressed: the menu hangs from it, and focus goes back to it. */
  readonly from = input.required<HTMLElement>();
  readonly other = output();
  readonly away = output();
  readonly swap = output<string>();
  readonly closed = output();
  readonly at = computed(() => this.from().getBoundingClientRect());
  readonly trigger = viewChild.required(MatMenuTrigger);

  constructor() {
    afterNextRender(() => this.trigger().openMenu());
  }

  close(): void {
    this.from().focus();
    this.closed.emit();
  }
}
