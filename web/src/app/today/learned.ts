import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { ChildView, LastSession } from '@vane/contract';
import type { Reading } from '@vane/core';
import { standingOf } from '@vane/core/plan/standing';
import { forkJoin, map } from 'rxjs';
import { viewOf } from '../sail/sail';
import { pageWords } from '../language/pageWords';
import { Trouble } from '../parts/trouble';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { whenThere } from '../api/whenThere';

/** Most children listed: the last ones asked. */
const MOST_LISTED = 8;

/** What today's last sessions changed, and which children to ask how they knew. */
@Component({
  selector: 'vane-learned',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, Trouble],
  template: `
    <section aria-labelledby="learned">
      <h2 i18n id="learned">What changed today</h2>
      @if (moved.hasValue()) {
        <ul>
          @for (line of lines(); track line.id) {
            <li>
              <a [routerLink]="['/children', line.id]" [queryParams]="{ see: line.view }">{{ line.name }}</a>:
              {{ line.words }}
            </li>
          }
        </ul>
      } @else if (moved.error()) {
        <vane-trouble [of]="moved" />
      } @else {
        <p i18n role="status">Loading …</p>
      }
    </section>
  `,
  styles: `
    section {
      margin-top: 36px;
      border-top: 1px solid var(--sand);
      padding-top: 14px;
    }
    li {
      margin: 6px 0;
      max-width: 60em;
    }
    a {
      color: var(--tide);
    }
  `,
})
export class Learned {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly children = input.required<readonly ChildView[]>();
  readonly readings = input.required<readonly Reading[]>();
  readonly #last = computed(() =>
    [...this.children()].sort((a, b) => ((a.lastAskedAt ?? '') < (b.lastAskedAt ?? '') ? 1 : -1)).slice(0, MOST_LISTED),
  );
  readonly moved = rxResource({
    params: () => ({ classId: this.#session.classId(), children: this.#last() }),
    stream: ({ params: { classId, children } }) =>
      forkJoin(
        children.map((child) =>
          this.#api
            .ask('GET /classes/:classId/children/:childId/moved', { classId, childId: child.id })
            .pipe(map((last) => ({ child, last }))),
        ),
      ),
  });
  readonly lines = computed(() =>
    whenThere(this.moved, (it) => it, []).map(({ child, last }) =>
      learnedLine({ child, last, readings: this.readings().filter((r) => r.child === child.id) }),
    ),
  );
}

/** What one child's last sitting moved, in a line. */
export function learnedLine({
  child,
  last: { moved, answered },
  readings,
}: {
  child: ChildView;
  last: LastSession;
  readings: readonly Reading[];
}) {
  const askHow = readings
    .filter(
      (one) =>
        (one.reason.code === 'probably-known' || one.reason.code === 'ask-the-child') &&
        one.responses >= 2 &&
        standingOf(one) !== 'known',
    )
    .slice(0, 2);
  return {
    id: child.id,
    name: child.nickname,
    view: viewOf(moved[0]?.fact ?? readings[0]?.fact ?? ''),
    words: pageWords.evidence.moved(
      moved,
      askHow.map((r) => r.fact),
      answered,
    ),
  };
}
