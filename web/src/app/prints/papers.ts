import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { GroupSheetRequest, GroupSheetView, PrintRequest } from '@vane/contract';
import type { Observable } from 'rxjs';

/** What the browser asks of the server about paper. */
@Injectable({ providedIn: 'root' })
export class Papers {
  readonly #http = inject(HttpClient);

  /** A print as PDF. */
  print(classId: string, wish: PrintRequest): Observable<ArrayBuffer> {
    return this.#http.post(`/api/classes/${classId}/prints`, wish, { responseType: 'arraybuffer' });
  }
  /** The cards of a print as SVG files, in one archive. */
  cards(classId: string, wish: PrintRequest): Observable<ArrayBuffer> {
    return this.#http.post(`/api/classes/${classId}/cards.zip`, wish, { responseType: 'arraybuffer' });
  }
  sheets(classId: string): Observable<readonly GroupSheetView[]> {
    return this.#http.get<readonly GroupSheetView[]>(`/api/classes/${classId}/group-sheets`);
  }
  makeSheet(classId: string, wish: GroupSheetRequest): Observable<GroupSheetView> {
    return this.#http.post<GroupSheetView>(`/api/classes/${classId}/group-sheets`, wish);
  }
  keyed(classId: string, code: string): Observable<unknown> {
    return this.#http.put(`/api/classes/${classId}/group-sheets/${code}/keyed`, {});
  }
}
