import { inject, type Signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

/** What the record said of a child at the end of each past week; of nobody, while the id is empty. To be called where a component is made. */
export function pastWeeks(childId: Signal<string>) {
  const api = inject(Api);
  const session = inject(Session);
  return rxResource({
    params: () => (session.classId() && childId() ? { classId: session.classId(), childId: childId() } : undefined),
    stream: ({ params }) => api.overTime(params.classId, params.childId),
  });
}
