import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input } from '@angular/core';
import type { Picture } from '@vane/core';
import { stagePicture } from '../measurement/stagePictures';

/** A picture of the stage, small, drawn by the stage's own code. */
@Component({
  selector: 'vane-shelf-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: `
    :host {
      display: grid;
      place-items: center;
      padding: 6px;
      color: var(--stage-ink);
      background: var(--stage);
    }
    :host ::ng-deep svg {
      width: 100%;
      height: 100%;
    }
  `,
  host: { 'aria-hidden': 'true' },
})
export class ShelfPicture {
  readonly picture = input.required<Picture>();
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect(() => host.replaceChildren(stagePicture(this.picture()).picture));
  }
}
