import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { words } from '../language/words';
import { Outbox } from '../outbox/outbox';

/** What this device still keeps for the server. Silent when nothing waits. */
@Component({
  selector: 'vane-waiting',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span role="status" [class.trouble]="outbox.state().trouble !== null">{{ text() }}</span>`,
  styles: `
    span {
      font-size: 15px;
      color: var(--faint);
    }
    .trouble {
      color: var(--lamp);
    }
  `,
})
export class Waiting {
  readonly outbox = inject(Outbox);
  /** Beside the stage only trouble is worth a word. */
  readonly onlyTrouble = input(false);
  readonly text = computed(() => {
    const { waiting, others, refused, trouble } = this.outbox.state();
    const kept = $localize`${words.counted.answers(waiting)} saved here`;
    if (this.onlyTrouble() && trouble === null) return '';
    const parts: string[] = [];
    if (waiting > 0) parts.push(trouble === null ? $localize`${kept}, sending` : `${kept}: ${trouble}`);
    if (others > 0) parts.push($localize`${others} from another adult saved here (see Log)`);
    if (refused > 0) parts.push($localize`${refused} refused by the server (see Log)`);
    return parts.join(' · ');
  });
}
