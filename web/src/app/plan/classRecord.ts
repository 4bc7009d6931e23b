import { inject } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { forkJoin } from 'rxjs';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

/** What the server says of the open class and its readings. To be called where a component is made. */
export function classRecord() {
  const api = inject(Api);
  const session = inject(Session);
  return rxResource({
    params: () => session.classId() || undefined,
    stream: ({ params: classId }) => forkJoin({ view: api.classView(classId), judged: api.readings(classId) }),
  });
}
