import { CdkDrag, CdkDragPlaceholder, CdkDropList, CdkDropListGroup, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  viewChildren,
} from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import {
  drawPicture,
  frame,
  move,
  moveAcross,
  newBoard,
  toggle,
  type Board,
  type BoardPlan,
  type Counters,
  type Options,
} from '@vane/core';
import { carpetWords } from '../../language/carpetWords';
import { labels } from '../../language/labels';

/** Where a counter is dragged from when it lies in no box yet. */
const POOL = -1;

/** The frame a child builds on, or the two between which counters move: by a tap, by dragging, or by keys; one counter a box. */
@Component({
  selector: 'vane-board-answer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkDrag, CdkDragPlaceholder, CdkDropList, CdkDropListGroup],
  template: `
    <div class="frames" cdkDropListGroup>
      @for (one of frames(); track $index) {
        <div
          class="frame"
          role="group"
          [attr.aria-label]="frameName($first)"
          [style.grid-template-columns]="one.columns"
        >
          @for (box of one.boxes; track box.at) {
            <button
              #boxes
              type="button"
              class="box"
              cdkDropList
              [cdkDropListData]="box.at"
              cdkDropListSortingDisabled
              (cdkDropListDropped)="drop($event)"
              [class.start]="marksStart() && box.at === 0"
              [attr.aria-pressed]="board()[box.at]"
              [attr.aria-label]="labels.box(box.at + 1)"
              [style.grid-column]="box.x + 1"
              [style.grid-row]="box.y + 1"
              (click)="tap(box.at)"
              (keydown)="key($event, box.at)"
            >
              @if (board()[box.at]) {
                <span class="counter" cdkDrag [cdkDragData]="box.at" [innerHTML]="drawnCounter()"
                  ><span *cdkDragPlaceholder></span
                ></span>
              }
            </button>
          }
        </div>
      }
      @if (!plan().moves) {
        <div
          class="pool"
          cdkDropList
          [cdkDropListData]="pool"
          cdkDropListSortingDisabled
          (cdkDropListDropped)="drop($event)"
          aria-hidden="true"
        >
          @for (loose of [1, 2, 3]; track loose) {
            <span class="counter" cdkDrag [cdkDragData]="pool" [innerHTML]="drawnCounter()"
              ><span class="counter" *cdkDragPlaceholder></span
            ></span>
          }
        </div>
      }
    </div>
  `,
  styleUrl: './boardAnswer.scss',
})
export class BoardAnswer {
  readonly labels = labels;
  readonly #sanitizer = inject(DomSanitizer);
  readonly plan = input.required<BoardPlan>();
  readonly options = input.required<Options>();
  readonly counters = input.required<Counters>();
  readonly board = linkedSignal<BoardPlan, Board>({
    source: this.plan,
    computation: (plan, before) => (plan.keeps && before ? before.value : newBoard(plan)),
  });
  readonly boxes = viewChildren<ElementRef<HTMLElement>>('boxes');
  readonly pool = POOL;

  readonly direction = computed(() => (this.plan().frames === 2 ? 'rows' : this.options().direction));
  readonly marksStart = computed(() => this.options().startBox === 'shown' && !this.plan().moves);
  frameName(first: boolean): string {
    if (this.frames().length === 1) return $localize`frame`;
    return first ? $localize`first frame` : $localize`second frame`;
  }
  readonly frames = computed(() => {
    const { boxes, width } = frame(this.plan().layout, 0, this.direction());
    return Array.from({ length: this.plan().frames }, (_, f) => ({
      columns: `repeat(${width}, 1fr)`,
      boxes: boxes.map((box, i) => ({ ...box, at: f * boxes.length + i })),
    }));
  });
  /** Our own drawing, from `core`: nothing in it comes from outside. */
  readonly drawnCounter = computed(() => {
    const { svg } = drawPicture({ show: 'counter', counters: this.counters() }, carpetWords.pictures);
    return this.#sanitizer.bypassSecurityTrustHtml(svg);
  });

  tap(box: number): void {
    this.board.update((board) => (this.plan().moves ? moveAcross(board, box) : toggle(board, box)));
  }

  drop({ previousContainer, container }: CdkDragDrop<number>): void {
    const [from, to] = [previousContainer.data, container.data];
    this.board.update((board) => {
      if (from === POOL) return to !== POOL && !board[to] ? toggle(board, to) : board;
      return to === POOL ? toggle(board, from) : move(board, from, to);
    });
  }

  /** Arrow keys go from box to box; Enter is the button's own. */
  key(event: KeyboardEvent, at: number): void {
    const across = this.direction() === 'rows';
    const size = this.frames()[0]?.boxes.length ?? 10;
    const here = this.frames().flatMap((f, i) => f.boxes.map((b) => ({ ...b, x: b.x + (across ? i * 100 : 0) })));
    const step: Record<string, readonly [number, number]> = {
      ArrowRight: [1, 0],
      ArrowLeft: [-1, 0],
      ArrowDown: [0, 1],
      ArrowUp: [0, -1],
    };
    const by = step[event.key];
    const now = here[at];
    if (!by || !now) return;
    event.preventDefault();
    const next =
      here.find((b) => b.x === now.x + by[0] && b.y === now.y + by[1]) ??
      here[(at + (by[0] + by[1] > 0 ? size : here.length - size)) % here.length];
    if (next) this.boxes()[next.at]?.nativeElement.focus();
  }
}
