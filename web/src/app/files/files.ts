import { HttpClient, HttpEventType } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { FileDates, ImportResult } from '@vane/contract';
import { type Observable, filter, map, of, switchMap } from 'rxjs';
import { addressOf } from '../api/api';
import { asDescribed } from '../api/asDescribed';

/** What can be brought in: a class's answers, or, for a lead, a class or a roster. */
export type Kind = 'responses' | 'archive' | 'roster';
const ROUTES = {
  responses: { route: 'POST /classes/:classId/import', type: 'text/csv' },
  archive: { route: 'POST /school/archive', type: 'application/json' },
  roster: { route: 'POST /school/roster', type: 'application/zip' },
} as const;

/** What somebody has said of a file of responses: the order of its dates, and whom its names mean. */
export interface SaidOfFile {
  readonly order?: FileDates['order'];
  readonly names: Readonly<Record<string, string>>;
}

/** How far a file has been read, and what came of it once it is. */
type Reading = { readonly share: number } | { readonly result: ImportResult };

/** Files that are brought in. */
@Injectable({ providedIn: 'root' })
export class Files {
  readonly #http = inject(HttpClient);

  /** Has a file looked at, or taken in. The server reads it as it comes, so that how much of it has gone is how much has been read; to unsubscribe is to break off. */
  bring(kind: Kind, classId: string, file: Blob, write: boolean, said: SaidOfFile): Observable<Reading> {
    const { route, type } = ROUTES[kind];
    return this.#http
      .post<ImportResult>(addressOf(route, { classId }), file, {
        params: {
          write: write ? 'yes' : 'no',
          ...(said.order ? { order: said.order } : {}),
          ...(Object.keys(said.names).length > 0 ? { names: JSON.stringify(said.names) } : {}),
        },
        headers: { 'content-type': type },
        observe: 'events',
        reportProgress: true,
      })
      .pipe(
        switchMap((event): Observable<Reading | null> => {
          if (event.type === HttpEventType.UploadProgress)
            return of({ share: event.total ? event.loaded / event.total : 0 });
          return event.type === HttpEventType.Response && event.body !== null
            ? of(event.body).pipe(
                asDescribed(route),
                map((result) => ({ result })),
              )
            : of(null);
        }),
        filter((reading) => reading !== null),
      );
  }
}
