import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Outbox } from '../outbox/outbox';

/** What this device still keeps for the server. Silent when nothing waits. */
@Component({
  selector: 'vane-waiting',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span role="status" [class.trouble]="state().trouble !== null">
      @if (shown()) {
        @if (state().waiting > 0) {
          <span>
            <ng-container i18n
              >{state().waiting, plural, one {one answer saved here} other {{{ state().waiting }} answers saved here}}
            </ng-container>
            @if (state().trouble; as trouble) {
              ({{ trouble }})
            }
          </span>
        }
        @if (state().others > 0) {
          <span i18n>{{ state().others }} from another adult saved here (see Log)</span>
        }
        @if (state().refused > 0) {
          <span i18n>{{ state().refused }} refused by the server (see Log)</span>
        }
      }
    </span>
  `,
  styles: `
    span {
      font-size: 15px;
      color: var(--faint);
    }
    span + span::before {
      content: ' · ';
    }
    .trouble span {
      color: var(--lamp);
    }
  `,
})
export class Waiting {
  /** Shows only errors during a session. */
  readonly onlyTrouble = input(false);
  readonly state = inject(Outbox).state;
  readonly shown = computed(() => !this.onlyTrouble() || this.state().trouble !== null);
}
