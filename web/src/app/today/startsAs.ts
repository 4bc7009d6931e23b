import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { CarpetSettings } from '@vane/contract';
import { MODES, SCREEN_WORDS } from '../carpet/choice/differences';
import { SetUps } from '../carpet/choice/setUps';

/** How a session that begins in one press will be answered, and on which screens. Loaded once the plan stands. */
@Component({
  selector: 'vane-starts-as',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ng-container i18n>starts as last time: {{ how() }}</ng-container>`,
})
export class StartsAs {
  readonly #setUps = inject(SetUps);
  readonly carpet = input.required<CarpetSettings | null>();
  readonly how = computed(() => {
    const answered = MODES.find(({ mode }) => mode === this.carpet()?.answerMode)?.words ?? '';
    const screens = this.#setUps.planned()?.screens ?? 'one';
    return screens === 'one' ? answered : `${answered}, ${SCREEN_WORDS[screens].words}`;
  });
}
