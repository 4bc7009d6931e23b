import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** One of @mdi/js's paths as an inline picture; decoration only, so the text beside it carries the meaning. */
@Component({
  selector: 'vane-icon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true">
    <path [attr.d]="path()" fill="currentColor" />
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
      vertical-align: middle;
    }
  `,
})
export class Icon {
  readonly path = input.required<string>();
}
