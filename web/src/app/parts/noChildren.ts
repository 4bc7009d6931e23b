import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

/** Stands where children would, and leads to where they are added. */
@Component({
  selector: 'vane-no-children',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `<p i18n>There are no children in this class yet. <a routerLink="/children">Add children</a></p>`,
})
export class NoChildren {}
