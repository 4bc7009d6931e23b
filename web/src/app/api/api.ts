import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type {
  OpenedScreen,
  AdultChange,
  AuditView,
  BatchResult,
  CarpetSettings,
  ChildChange,
  ChildRecord,
  ClassChange,
  ClassReadings,
  ClassView,
  ControlState,
  CorrectionRequest,
  Door,
  Invitation,
  LastSession,
  InviteRequest,
  LetterView,
  LogPage,
  LogQuery,
  Me,
  NoteRequest,
  OverTime,
  Problem,
  RecordBatch,
  OverruleRequest,
  OverruleView,
  RollOverRequest,
  SchoolClassView,
  SchoolView,
  ScreenState,
  StageState,
} from '@vane/contract';
import { repeat, takeWhile, type Observable } from 'rxjs';

/** How long to wait before asking again for weeks that are still being judged. */
const WEEKS_AGAIN_MS = 700;

export interface SetUpWish {
  readonly school: string;
  readonly className: string;
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly timeZone: string;
  readonly children: readonly string[];
}

/** What the browser asks of the server about the school, its classes and their record; paper (`prints/papers`) and files (`files/files`) ask for themselves. */
@Injectable({ providedIn: 'root' })
export class Api {
  readonly #http = inject(HttpClient);

  door(): Observable<Door> {
    return this.#http.get<Door>('/api/door');
  }
  me(): Observable<Me> {
    return this.#http.get<Me>('/api/me');
  }
  signIn(email: string, password: string): Observable<Me> {
    return this.#http.post<Me>('/api/sign-in', { email, password });
  }
  signOut(): Observable<unknown> {
    return this.#http.post('/api/sign-out', {});
  }
  setUp(wish: SetUpWish): Observable<Me> {
    return this.#http.post<Me>('/api/set-up', wish);
  }
  classView(classId: string): Observable<ClassView> {
    return this.#http.get<ClassView>(`/api/classes/${classId}`);
  }
  readings(classId: string): Observable<ClassReadings> {
    return this.#http.get<ClassReadings>(`/api/classes/${classId}/readings`);
  }
  /** A child's record as it is now, or as it stood at the end of a day. */
  child(classId: string, childId: string, until?: string): Observable<ChildRecord> {
    return this.#http.get<ChildRecord>(`/api/classes/${classId}/children/${childId}`, {
      params: until ? { until } : {},
    });
  }
  /** What the last sitting of a child moved. */
  moved(classId: string, childId: string, until?: string): Observable<LastSession> {
    return this.#http.get<LastSession>(`/api/classes/${classId}/children/${childId}/moved`, {
      params: until ? { until } : {},
    });
  }
  /** What past weeks left, of the class or of one child; again and again until all weeks are judged. */
  overTime(classId: string, childId?: string): Observable<OverTime> {
    const path = `/api/classes/${classId}${childId === undefined ? '' : `/children/${childId}`}/over-time`;
    return this.#http.get<OverTime>(path).pipe(
      repeat({ delay: WEEKS_AGAIN_MS }),
      takeWhile(({ pending }) => pending > 0, true),
    );
  }
  addChildren(classId: string, nicknames: readonly string[]): Observable<unknown> {
    return this.#http.post(`/api/classes/${classId}/children`, { nicknames });
  }
  changeChild(classId: string, childId: string, change: ChildChange): Observable<unknown> {
    return this.#http.put(`/api/classes/${classId}/children/${childId}`, change);
  }
  deleteChild(classId: string, childId: string): Observable<{ responses: number }> {
    return this.#http.delete<{ responses: number }>(`/api/classes/${classId}/children/${childId}`);
  }
  note(classId: string, note: NoteRequest): Observable<unknown> {
    return this.#http.post(`/api/classes/${classId}/notes`, note);
  }
  deleteNote(classId: string, id: string): Observable<unknown> {
    return this.#http.delete(`/api/classes/${classId}/notes/${id}`);
  }
  join(wish: { token: string; name: string; password: string }): Observable<Me> {
    return this.#http.post<Me>('/api/join', wish);
  }
  invitation(token: string): Observable<Invitation> {
    return this.#http.get<Invitation>(`/api/join/${encodeURIComponent(token)}`);
  }
  forgotten(email: string): Observable<unknown> {
    return this.#http.post('/api/forgotten', { email });
  }
  reset(token: string, password: string): Observable<unknown> {
    return this.#http.post('/api/reset', { token, password });
  }
  careRead(): Observable<unknown> {
    return this.#http.post('/api/me/care-read', {});
  }
  changePassword(old: string, password: string): Observable<unknown> {
    return this.#http.put('/api/me/password', { old, password });
  }
  /** @param now the pin there is; empty when there is none */
  setPin(pin: string | null, now: string): Observable<unknown> {
    return this.#http.put('/api/me/pin', { pin, ...(now === '' ? {} : { old: now }) });
  }
  lock(): Observable<{ locked: boolean }> {
    return this.#http.post<{ locked: boolean }>('/api/me/lock', {});
  }
  unlock(pin: string): Observable<unknown> {
    return this.#http.post('/api/me/unlock', { pin });
  }
  signOutEverywhere(): Observable<unknown> {
    return this.#http.post('/api/me/sign-out-everywhere', {});
  }
  school(): Observable<SchoolView> {
    return this.#http.get<SchoolView>('/api/school');
  }
  invite(wish: InviteRequest): Observable<{ link: string; posted: boolean }> {
    return this.#http.post<{ link: string; posted: boolean }>('/api/school/invites', wish);
  }
  withdrawInvite(id: string): Observable<unknown> {
    return this.#http.delete(`/api/school/invites/${id}`);
  }
  changeAdult(id: string, change: AdultChange): Observable<unknown> {
    return this.#http.put(`/api/school/adults/${id}`, change);
  }
  removeAdult(id: string): Observable<unknown> {
    return this.#http.delete(`/api/school/adults/${id}`);
  }
  standIn(timeZone: string): Observable<unknown> {
    return this.#http.put('/api/school/time-zone', { timeZone });
  }
  keepFor(keepMonths: number): Observable<unknown> {
    return this.#http.put('/api/school/keep', { keepMonths });
  }
  audit(offset: number): Observable<AuditView[]> {
    return this.#http.get<AuditView[]>('/api/school/audit', { params: { offset } });
  }
  mail(): Observable<LetterView[]> {
    return this.#http.get<LetterView[]>('/api/school/mail');
  }
  schoolClasses(): Observable<SchoolClassView[]> {
    return this.#http.get<SchoolClassView[]>('/api/school/classes');
  }
  addClass(name: string): Observable<{ id: string }> {
    return this.#http.post<{ id: string }>('/api/school/classes', { name });
  }
  changeClass(id: string, change: ClassChange): Observable<unknown> {
    return this.#http.put(`/api/school/classes/${id}`, change);
  }
  deleteClass(id: string): Observable<unknown> {
    return this.#http.delete(`/api/school/classes/${id}`);
  }
  rollOver(id: string, wish: RollOverRequest): Observable<{ id: string }> {
    return this.#http.post<{ id: string }>(`/api/school/classes/${id}/roll-over`, wish);
  }
  overrule(classId: string, childId: string, wish: OverruleRequest): Observable<OverruleView[]> {
    return this.#http.post<OverruleView[]>(`/api/classes/${classId}/children/${childId}/overrules`, wish);
  }
  takeBackOverrule(classId: string, childId: string, id: string): Observable<OverruleView[]> {
    return this.#http.delete<OverruleView[]>(`/api/classes/${classId}/children/${childId}/overrules/${id}`);
  }
  saveCarpet(classId: string, settings: CarpetSettings): Observable<unknown> {
    return this.#http.put(`/api/classes/${classId}/carpet`, settings);
  }
  sendRecord(classId: string, batch: RecordBatch): Observable<BatchResult> {
    return this.#http.post<BatchResult>(`/api/classes/${classId}/record`, batch);
  }
  log(classId: string, query: LogQuery): Observable<LogPage> {
    return this.#http.get<LogPage>(`/api/classes/${classId}/log`, { params: { ...query } });
  }
  correct(classId: string, request: CorrectionRequest): Observable<{ changed: number }> {
    return this.#http.post<{ changed: number }>(`/api/classes/${classId}/corrections`, request);
  }
  /** The server's time, milliseconds since 1970 with fractions. */
  clock(question: number): Observable<{ at: number }> {
    return this.#http.get<{ at: number }>('/api/clock', { params: { question } });
  }
  openScreen(classId: string): Observable<OpenedScreen> {
    return this.#http.post<OpenedScreen>(`/api/classes/${classId}/screens`, {});
  }
  tellScreen(classId: string, id: string, state: ScreenState<ControlState>): Observable<unknown> {
    return this.#http.put(`/api/classes/${classId}/screens/${id}`, state);
  }
  closeScreen(classId: string, id: string): Observable<unknown> {
    return this.#http.delete(`/api/classes/${classId}/screens/${id}`);
  }
  screenEvents(classId: string, id: string): string {
    return `/api/classes/${classId}/screens/${id}/events`;
  }
  pairScreen(code: string): Observable<unknown> {
    return this.#http.post('/api/board/pair', { code });
  }
  /** The screen that this device is paired with. */
  ownScreen(): Observable<{ seq: number }> {
    return this.#http.get<{ seq: number }>('/api/board/stage');
  }
  tellStage(state: ScreenState<StageState>): Observable<unknown> {
    return this.#http.put('/api/board/stage', state);
  }
  stageEvents(): string {
    return '/api/board/events';
  }
  /** One child's whole record as a file. */
  childFileAddress(classId: string, childId: string, as: 'record.json' | 'responses.csv'): string {
    return `/api/classes/${classId}/children/${childId}/${as}`;
  }
}

/** The server's problem, when an error carries one; null when there was no answer at all. */
export function problemOf(error: unknown): Problem | null {
  if (!(error instanceof HttpErrorResponse) || error.status === 0) return null;
  // Where bytes were asked for, the problem comes as bytes too.
  const told: unknown = error.error instanceof ArrayBuffer ? new TextDecoder().decode(error.error) : error.error;
  const body: unknown = typeof told === 'string' ? tryJson(told) : told;
  return typeof body === 'object' && body !== null && 'code' in body ? (body as Problem) : null;
}

function tryJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** What went wrong, in words for an adult. */
export function inWords(error: unknown): string {
  const problem = problemOf(error);
  if (problem === null) return $localize`Vane’s server does not answer. Your answers are saved on this device.`;
  const places = (problem.places ?? []).map((p) => `${p.place}: ${p.reason}`).join('; ');
  return [problem.title, problem.detail, places].filter((part) => part).join(': ') + '.';
}
