import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { Answer, ClassReadings, OverTime, Places, Problem, RouteName, Routes, Sent } from '@vane/contract';
import { last, repeat, takeWhile, type Observable } from 'rxjs';
import { asDescribed } from './asDescribed';

/** How long to wait before asking again for weeks that are still being judged. */
const WEEKS_AGAIN_MS = 700;
/** How often, and how soon, readings are asked for that are just being judged. */
const READINGS_ASKED = 12;
const READINGS_AGAIN_MS = 350;

/** Routes that answer with JSON or with nothing, with a file, and with events. */
type Telling = { [K in RouteName]: [Answer<K>] extends [never] ? never : K }[RouteName];
type Of<Kind extends 'file' | 'events'> = {
  [K in RouteName]: Routes[K] extends { readonly answer: Kind } ? K : never;
}[RouteName];
/** What a route is asked with, which may be left out where it takes nothing. */
type Asked<K extends RouteName> = object extends Sent<K> ? [asked?: Sent<K>] : [asked: Sent<K>];

/** A route's address, with its places filled in. */
export function addressOf<K extends RouteName>(
  route: K,
  ...[places]: object extends Places<K> ? [places?: Places<K>] : [places: Places<K>]
): string {
  const path = route.slice(route.indexOf(' ') + 1);
  const filled: Readonly<Record<string, string>> = places ?? {};
  return `/api${path.replace(/:(\w+)(\{[^}]*\})?/g, (_, name: string) => encodeURIComponent(filled[name] ?? ''))}`;
}

/** What the browser asks of the server: the routes of the contract, by method and path, with what the path leaves open, the query and the body. */
@Injectable({ providedIn: 'root' })
export class Api {
  readonly #http = inject(HttpClient);

  ask<K extends Telling>(route: K, ...[asked]: Asked<K>): Observable<Answer<K>> {
    const method = methodOf(route);
    return this.#http
      .request<Answer<K>>(method, addressOf(route, asked as never), optionsOf(method, asked))
      .pipe(asDescribed(route));
  }
  /** A file, as its bytes. */
  bytes<K extends Of<'file'>>(route: K, ...[asked]: Asked<K>): Observable<ArrayBuffer> {
    const method = methodOf(route);
    return this.#http.request(method, addressOf(route, asked as never), {
      ...optionsOf(method, asked),
      responseType: 'arraybuffer',
    });
  }
  /** The class's readings. Readings under way are waited for briefly; after that the former ones are returned. */
  readings(classId: string): Observable<ClassReadings> {
    return this.ask('GET /classes/:classId/readings', { classId }).pipe(
      repeat({ count: READINGS_ASKED, delay: READINGS_AGAIN_MS }),
      takeWhile(({ judging }) => judging === 'under-way', true),
      last(),
    );
  }
  /** What past weeks left, of the class or of one child; again and again until all weeks are judged. */
  overTime(classId: string, childId?: string): Observable<OverTime> {
    return (
      childId === undefined
        ? this.ask('GET /classes/:classId/over-time', { classId })
        : this.ask('GET /classes/:classId/children/:childId/over-time', { classId, childId })
    ).pipe(
      repeat({ delay: WEEKS_AGAIN_MS }),
      takeWhile(({ pending }) => pending > 0, true),
    );
  }
}

const methodOf = (route: RouteName): string => route.slice(0, route.indexOf(' '));

/** The query and body of a request. What is posted or put has a body, if an empty one. */
function optionsOf(method: string, asked: object = {}) {
  const { query, body = {} } = asked as {
    query?: Readonly<Record<string, string | number | undefined>>;
    body?: object;
  };
  const params = Object.entries(query ?? {}).filter(
    (entry): entry is [string, string | number] => entry[1] !== undefined,
  );
  return { ...(method.startsWith('P') ? { body } : {}), params: Object.fromEntries(params) };
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
