import {
  afterRenderEffect,
  DestroyRef,
  Directive,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
} from '@angular/core';
import type { Sorting } from './sorting';

/** A list whose rows can be dragged by what is marked `data-handle` in them. Dragging loads after the list is there: the first screen does not wait for it. */
@Directive({ selector: '[vaneSortable]' })
export class Sortable {
  /** Any value that changes with the rows. */
  readonly vaneSortable = input.required<readonly unknown[]>();
  readonly moved = output<{ from: number; to: number }>();
  readonly #sorting = signal<Sorting | null>(null);

  constructor() {
    const list = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const injector = inject(Injector);
    const leaving = inject(DestroyRef);
    import('./sorting').then(
      ({ Sorting }) => {
        if (leaving.destroyed) return;
        const sorting = new Sorting(injector, list, (from, to) => this.moved.emit({ from, to }));
        leaving.onDestroy(() => sorting.dispose());
        this.#sorting.set(sorting);
      },
      // Rows can be moved by keys and buttons all the same.
      (error: unknown) => console.warn('Rows cannot be dragged:', error),
    );
    afterRenderEffect(() => {
      this.vaneSortable();
      this.#sorting()?.rows(
        Array.from(list.querySelectorAll<HTMLElement>('[data-handle]')).flatMap((handle) => {
          const row = handle.closest<HTMLElement>('li');
          return row ? [{ row, handle }] : [];
        }),
      );
    });
  }
}
