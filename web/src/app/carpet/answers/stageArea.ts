import { ChangeDetectionStrategy, Component, type ElementRef, computed, input, viewChild } from '@angular/core';
import type { Ask, Counters, Options } from '@vane/core';
import { BoardAnswer } from './boardAnswer';
import { CutAnswer } from './cutAnswer';

/** What the child sees: the stage, and over it the board or row that they build or cut. Boards and rows lie there from the question on; they are hidden while something is flashed. */
@Component({
  selector: 'vane-stage-area',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BoardAnswer, CutAnswer],
  template: `
    <div #stage class="stage" data-testid="stage" role="region" i18n-aria-label aria-label="Stage"></div>
    @if ((answering() || keeps()) && want(); as want) {
      @if (want.by === 'board') {
        <vane-board-answer class="answer" [plan]="want.plan" [options]="options()" [counters]="counters()" />
      } @else if (want.by === 'cut') {
        <vane-cut-answer class="answer" [want]="want" [counters]="counters()" />
      }
    }
    @if (paused()) {
      <p i18n class="over">Paused</p>
    }
  `,
  styleUrl: './stageArea.scss',
  host: { '[class.flash]': 'ask()?.flash ?? false', '[class.larger]': 'larger()', '[class.beside]': 'keeps()' },
})
export class StageArea {
  readonly ask = input.required<Ask | null>();
  /** The question is on, or was just answered. */
  readonly answering = input.required<boolean>();
  readonly options = input.required<Options>();
  readonly counters = input.required<Counters>();
  readonly paused = input(false);
  /** The child sees better what is as large as it can be. */
  readonly larger = input(false);
  readonly want = computed(() => this.ask()?.want);
  /** The child's own frame stays beside what is shown. */
  readonly keeps = computed(() => {
    const want = this.want();
    return want?.by === 'board' && want.plan.keeps === true;
  });
  readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  readonly board = viewChild(BoardAnswer);
}
