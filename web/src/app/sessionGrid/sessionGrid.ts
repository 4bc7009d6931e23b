import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import type { PlannedSitting, Reading } from '@vane/core';
import { sessionGrid, type GridCell } from '@vane/core/plan/grid';
import { standingOf } from '@vane/core/plan/standing';
import { words } from '../language/words';
import { listedBy, reasonsOf } from '../plan/reasons';
import { Needle } from '../sail/needle';
import { EvidenceHere } from './evidenceHere';

interface Cell extends GridCell {
  readonly head: string;
  readonly words: string;
}

/** A session drawn: a row for each child, a column for each fact, the needle of each, shaded where it is asked. A press on one opens what stands behind it. */
@Component({
  selector: 'vane-session-grid',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Needle, EvidenceHere, NgTemplateOutlet],
  template: `
    @for (group of groups(); track group.title) {
      <table>
        <caption [class.aloud]="groups().length === 1">
          {{
            group.title
          }}
        </caption>
        <thead>
          <tr>
            <th i18n scope="col"><span class="aloud">child</span></th>
            @if (group.heads.length === 0) {
              <th i18n scope="col"><span class="aloud">asked</span></th>
            }
            @for (fact of group.heads; track fact.fact) {
              <th scope="col" class="head" [title]="fact.words">{{ fact.head }}</th>
            }
            <th i18n scope="col" class="last">last asked</th>
          </tr>
        </thead>
        <tbody>
          @for (row of group.rows; track row.child) {
            <tr>
              <th scope="row">
                @if (menus()) {
                  <button
                    #pebble
                    type="button"
                    class="pebble"
                    aria-haspopup="menu"
                    (click)="child.emit({ child: row.child, from: pebble })"
                  >
                    {{ row.name }}
                  </button>
                } @else {
                  {{ row.name }}
                }
              </th>
              @if (group.heads.length > 0) {
                @for (cell of row.cells; track cell.fact) {
                  <td [class.asked]="cell.asked">
                    <ng-container [ngTemplateOutlet]="press" [ngTemplateOutletContext]="{ cell, child: row.child }" />
                  </td>
                }
              } @else {
                <td class="own">
                  @for (cell of row.cells; track cell.fact) {
                    <ng-container
                      [ngTemplateOutlet]="press"
                      [ngTemplateOutletContext]="{ cell, child: row.child, head: cell.head }"
                    />
                  }
                </td>
              }
              <td class="last faint">{{ row.ago }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <ng-template #press let-cell="cell" let-child="child" let-head="head">
      <button
        type="button"
        [attr.aria-label]="cell.words"
        [attr.aria-expanded]="isOpen(child, cell.fact)"
        (click)="toggle(child, cell.fact)"
      >
        {{ head }} <vane-needle [reading]="cell.reading" [width]="32" />
      </button>
    </ng-template>
    @if (open(); as one) {
      <vane-evidence-here [childId]="one.child" [fact]="one.fact" (closed)="open.set(null)" />
    }
    <details>
      <summary>
        <span i18n class="shaded">Shaded: asked in this session.</span>
        @if (more()) {
          <span i18n class="shaded">Other questions open it, or keep in practice what is known.</span>
        }
        <u i18n>Why these?</u>
      </summary>
      <ul class="reasons">
        @for (one of reasons(); track one.why) {
          <li>
            <b>{{ one.who }}</b>: {{ one.why }}
          </li>
        }
      </ul>
    </details>
  `,
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    table {
      border-collapse: separate;
      border-spacing: 2px;
    }
    caption {
      text-align: start;
      font: 16px var(--reading);
      color: var(--faint);
      padding-top: 4px;
    }
    th {
      font-weight: 400;
      text-align: start;
    }
    tbody th {
      width: 120px;
    }
    .head {
      min-width: 54px;
      padding: 0 4px;
      white-space: nowrap;
      font-size: 14px;
      line-height: 1.15;
      text-align: center;
      color: var(--faint);
    }
    td {
      padding: 0;
      text-align: center;
    }
    td button {
      display: grid;
      place-items: center;
      width: 100%;
      min-width: 44px;
      min-height: 40px;
      padding: 0 4px;
      font: 15px var(--plain);
      color: var(--ink);
      background: none;
      border: 0;
      border-radius: 6px;
      cursor: pointer;
    }
    td.asked,
    .own button {
      background: var(--foam);
      border-radius: 6px;
    }
    .own {
      text-align: start;
    }
    .own button {
      display: inline-flex;
      align-items: center;
      gap: 2px;
      width: auto;
      margin: 1px 3px 1px 0;
      padding: 0 8px;
    }
    .last {
      text-align: end;
      white-space: nowrap;
      font-size: 15px;
      padding-left: 12px;
    }
    thead .last {
      color: var(--faint);
      font-size: 14px;
    }
    summary {
      padding: 8px 0;
      font-size: 15px;
      color: var(--faint);
      cursor: pointer;
      list-style: none;
    }
    .shaded {
      margin-inline-end: 0.4em;
    }
    summary::-webkit-details-marker {
      display: none;
    }
    ul {
      list-style: none;
      margin: 0 0 6px;
      padding: 0;
    }
    b {
      font-weight: 500;
    }
    /* On a phone there are the children alone. */
    @media (max-width: 600px) {
      thead,
      .shaded,
      td {
        display: none;
      }
      tr {
        display: inline-block;
      }
      tbody th {
        width: auto;
      }
    }
  `,
})
export class SessionGrid {
  readonly sitting = input.required<PlannedSitting>();
  readonly readings = input.required<readonly Reading[]>();
  readonly names = input.required<ReadonlyMap<string, string>>();
  /** Whether a press on a name asks for what can be done with the child. */
  readonly menus = input(false);
  readonly child = output<{ readonly child: string; readonly from: HTMLElement }>();

  /** Whose fact is looked into. Another session begins with none. */
  readonly open = linkedSignal<string, { readonly child: string; readonly fact: string } | null>({
    source: () => this.sitting().id,
    computation: () => null,
  });
  readonly groups = computed(() =>
    sessionGrid(this.sitting(), this.readings()).map(({ need, facts, rows, more }) => ({
      title: words.plan.title([need]),
      more,
      heads: (facts ?? []).map((fact) => ({ fact, head: words.factHead(fact), words: words.fact(fact) })),
      rows: rows.map(({ child, daysSince, ahead, cells }) => ({
        child,
        name: this.names().get(child) ?? '',
        ago: words.plan.lastAsked(daysSince, ahead),
        cells: cells.map((cell): Cell => ({
          ...cell,
          head: words.factHead(cell.fact),
          words: words.plan.cell(cell.fact, standingOf(cell.reading), cell.asked),
        })),
      })),
    })),
  );

  readonly more = computed(() => this.groups().some((group) => group.more));
  readonly reasons = computed(() => reasonsOf(this.sitting(), listedBy(this.names())));

  isOpen(child: string, fact: string): boolean {
    const open = this.open();
    return open?.child === child && open.fact === fact;
  }
  toggle(child: string, fact: string): void {
    this.open.set(this.isOpen(child, fact) ? null : { child, fact });
  }
}
