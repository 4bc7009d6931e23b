import { Injectable, effect, inject } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import type { ClassReadings, ClassView } from '@vane/contract';
import type { ChildNeed } from '@vane/core';
import { forkJoin, map, share, type Observable } from 'rxjs';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { ClassArrangements } from './arrangements';
import { needsFor } from './classPlan';

/** What the server says of a class and its readings. */
interface ClassRecord {
  readonly view: ClassView;
  readonly judged: ClassReadings;
}
/** The same, with what each child practises next: what Today, Class and a child's page say of a child is one plan. */
interface ClassPlan extends ClassRecord {
  readonly needs: readonly ChildNeed[];
}

/** Classes and their plans as streams that any place subscribes to: what several want to know in the same moment is asked, and planned, once. */
@Injectable({ providedIn: 'root' })
export class ClassRecords {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #records = new Map<string, Observable<ClassRecord>>();
  readonly #plans = new Map<string, Observable<ClassPlan>>();

  record(classId: string): Observable<ClassRecord> {
    return shared(this.#records, classId, () =>
      forkJoin({
        view: this.#api.ask('GET /classes/:classId', { classId }),
        judged: this.#api.readings(classId),
      }),
    );
  }

  plan(classId: string): Observable<ClassPlan> {
    return shared(this.#plans, classId, () =>
      this.record(classId).pipe(
        map(({ view, judged }) => ({
          view,
          judged,
          needs: needsFor({ children: view.children, judged, timeZone: this.#session.timeZone() }, Date.now()),
        })),
      ),
    );
  }
}

/** The stream of that name; what is under way has many listeners, what has ended begins anew for the next. */
function shared<T>(streams: Map<string, Observable<T>>, name: string, make: () => Observable<T>): Observable<T> {
  const known = streams.get(name) ?? make().pipe(share());
  streams.set(name, known);
  return known;
}

/** The open class. To be called where a component is made. */
export function classRecord() {
  const [records, session] = [inject(ClassRecords), inject(Session)];
  const arrangements = inject(ClassArrangements);
  const record = rxResource({
    params: () => session.classId() || undefined,
    stream: ({ params }) => records.record(params),
  });
  effect(() => {
    if (record.hasValue()) arrangements.catchUp(record.value().view.id, record.value().view.arranged);
  });
  return record;
}
/** The open class and its plan. To be called where a component is made. */
export function classPlan() {
  const [records, session] = [inject(ClassRecords), inject(Session)];
  return rxResource({
    params: () => session.classId() || undefined,
    stream: ({ params }) => records.plan(params),
  });
}
