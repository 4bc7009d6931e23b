import { HttpClient, HttpEventType } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { ImportResult, ImportView } from '@vane/contract';
import { filter, map, type Observable } from 'rxjs';

/** What can be brought in: a class's answers, or, for a lead, a class or a roster. */
export type Kind = 'responses' | 'archive' | 'roster';

/** How far a file has been read, and what came of it once it is. */
export type Reading = { readonly share: number } | { readonly result: ImportResult };

/** What the browser asks of the server about files. */
@Injectable({ providedIn: 'root' })
export class Files {
  readonly #http = inject(HttpClient);

  /** Has a file looked at, or taken in. The server reads it as it comes, so that how much of it has gone is how much has been read; to unsubscribe is to break off. */
  bring(kind: Kind, classId: string, file: Blob, write: boolean): Observable<Reading> {
    const address = kind === 'responses' ? `/api/classes/${classId}/import` : `/api/school/${kind}`;
    const type = { responses: 'text/csv', archive: 'application/json', roster: 'application/zip' }[kind];
    return this.#http
      .post<ImportResult>(address, file, {
        params: { write: write ? 'yes' : 'no' },
        headers: { 'content-type': type },
        observe: 'events',
        reportProgress: true,
      })
      .pipe(
        map((event): Reading | null => {
          if (event.type === HttpEventType.UploadProgress)
            return { share: event.total ? event.loaded / event.total : 0 };
          return event.type === HttpEventType.Response && event.body !== null ? { result: event.body } : null;
        }),
        filter((reading) => reading !== null),
      );
  }
  /** The roster that the roster service has just now. */
  roster(): Observable<Blob> {
    return this.#http.get('/api/school/roster-service', { responseType: 'blob' });
  }
  lately(classId: string | null): Observable<readonly ImportView[]> {
    return this.#http.get<readonly ImportView[]>(`${this.#base(classId)}/imports`);
  }
  takeBack(classId: string | null, id: string): Observable<{ responses: number }> {
    return this.#http.delete<{ responses: number }>(`${this.#base(classId)}/imports/${id}`);
  }
  handOver(classId: string): Observable<{ sent: number; fresh: number | null; to: string; simulated: boolean }> {
    return this.#http.post<{ sent: number; fresh: number | null; to: string; simulated: boolean }>(
      `/api/classes/${classId}/statements`,
      {},
    );
  }
  #base(classId: string | null): string {
    return classId === null ? '/api/school' : `/api/classes/${classId}`;
  }
}
