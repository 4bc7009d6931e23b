import { createDragRef, createDropListRef, type DragRef, type DropListRef } from '@angular/cdk/drag-drop';
import type { Injector } from '@angular/core';

/** Dragging within one upright list, by each row's handle. Loaded when the list already stands. */
export class Sorting {
  readonly #list: DropListRef;
  readonly #drags = new Map<HTMLElement, DragRef>();

  constructor(
    private readonly injector: Injector,
    list: HTMLElement,
    moved: (from: number, to: number) => void,
  ) {
    this.#list = createDropListRef(injector, list);
    this.#list.dropped.subscribe(({ previousIndex, currentIndex }) => {
      if (previousIndex !== currentIndex) moved(previousIndex, currentIndex);
    });
  }

  /** The rows as they stand now, each with its handle. */
  rows(rows: readonly { readonly row: HTMLElement; readonly handle: HTMLElement }[]): void {
    for (const [element, drag] of this.#drags) {
      if (rows.some(({ row }) => row === element)) continue;
      drag.dispose();
      this.#drags.delete(element);
    }
    const drags = rows.map(({ row, handle }) => {
      let drag = this.#drags.get(row);
      if (!drag) {
        drag = createDragRef(this.injector, row).withHandles([handle]);
        drag.lockAxis = 'y';
        this.#drags.set(row, drag);
      }
      return drag;
    });
    this.#list.withItems(drags);
  }

  dispose(): void {
    this.#drags.forEach((drag) => drag.dispose());
    this.#list.dispose();
  }
}
