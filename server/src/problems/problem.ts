import type { Problem } from '@vane/contract';
import type { Catalogue } from '@vane/core';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import { sayFor } from '../words/sayFor';

/** The status of every way in which a request can fail; the catalogue has what a person reads. */
const STATUS = {
  'bad-body': 400,
  'not-signed-in': 401,
  locked: 423,
  'wrong-code': 401,
  'wrong-set-up-code': 401,
  'not-paired': 401,
  'wrong-pin': 401,
  'wrong-password': 422,
  'weak-password': 422,
  'try-later': 429,
  'link-used': 410,
  'link-over': 401,
  'school-full': 409,
  'last-lead': 409,
  'email-taken': 409,
  'wrong-sign-in': 401,
  'not-allowed': 403,
  'wrong-host': 421,
  'other-origin': 403,
  'not-found': 404,
  'set-up-done': 409,
  'name-taken': 409,
  'class-not-empty': 409,
  'too-many-children': 409,
  'too-large': 413,
  'too-slow': 408,
  'not-correctable': 422,
  'not-an-archive': 422,
  'not-a-roster': 422,
  'already-here': 409,
  'no-record-store': 502,
  'no-roster-service': 502,
  'not-a-responses-file': 422,
  'nothing-to-print': 422,
  'too-many-cards': 422,
  'being-judged': 503,
  'not-judged': 500,
  'disk-full': 507,
  'school-moving': 503,
  'database-down': 503,
  failed: 500,
} as const satisfies Record<ProblemCode, ContentfulStatusCode>;

type ProblemCode = keyof Catalogue['problems'];

/** A failed request, thrown anywhere and answered in one place. */
export class RequestProblem extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly more: Pick<Problem, 'detail' | 'places'> = {},
  ) {
    super(code);
    this.name = 'RequestProblem';
  }
}

export function answerProblem(c: Context, code: ProblemCode, more: Pick<Problem, 'detail' | 'places'> = {}): Response {
  const status = STATUS[code];
  const body: Problem = { type: `urn:vane:${code}`, title: sayFor(c).problems[code], status, code, ...more };
  return c.body(JSON.stringify(body), status, { 'content-type': 'application/problem+json' });
}
