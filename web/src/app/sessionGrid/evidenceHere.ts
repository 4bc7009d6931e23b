import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { switchMap } from 'rxjs';
import { Api } from '../api/api';
import { EvidencePanel } from '../child/evidencePanel';
import { OwnJudge } from '../judging/ownJudge';
import { Trouble } from '../parts/trouble';
import { Session } from '../signedIn/session';

/** What stands behind one needle, where it was pressed. */
@Component({
  selector: 'vane-evidence-here',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [EvidencePanel, MatButtonModule, RouterLink, Trouble],
  template: `
    @if (record.hasValue()) {
      <p class="who">
        <a [routerLink]="['/children', childId()]">{{ record.value().child.nickname }}</a>
        <button i18n matButton type="button" (click)="closed.emit()">Close</button>
      </p>
      <vane-evidence [record]="record.value()" [fact]="fact()" (overruled)="record.reload()" />
    } @else if (record.error()) {
      <vane-trouble [of]="record" />
    } @else {
      <p i18n role="status">Loading the record …</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 10px 0;
      padding: 10px 0 4px;
      border-top: 1px solid var(--sand);
    }
    .who {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
  `,
})
export class EvidenceHere {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #own = inject(OwnJudge);
  readonly childId = input.required<string>();
  readonly fact = input.required<string>();
  readonly closed = output();
  readonly record = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), childId: this.childId() } : undefined),
    stream: ({ params }) =>
      this.#api
        .ask('GET /classes/:classId/children/:childId', { ...params, query: {} })
        .pipe(switchMap((one) => this.#own.withKept(one))),
  });
}
