import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** The link by which a lead joins, once it is made. */
@Component({
  selector: 'vane-join-link',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      @if (link()) {
        <ng-container i18n>Pass this link on to the lead. It works once, within a week:</ng-container>
        <code>{{ link() }}</code>
      }
    </p>
  `,
  styles: `
    code {
      display: block;
      overflow-wrap: anywhere;
    }
  `,
})
export class JoinLink {
  readonly link = input('');
}
