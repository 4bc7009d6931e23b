import type { Problem } from '@vane/contract';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';

/** Every way in which a request can fail: code, status, title. Titles are what a person reads. */
const PROBLEMS = {
  'bad-body': [400, 'What was sent cannot be read'],
  'not-signed-in': [401, 'Please sign in'],
  locked: [423, 'This device is locked: please give your pin'],
  'wrong-code': [401, 'No sitting waits for this code'],
  'not-paired': [401, 'This screen belongs to no sitting'],
  'wrong-pin': [401, 'This is not your pin'],
  'wrong-password': [422, 'This is not your password'],
  'weak-password': [
    422,
    'This password is easy to guess: it is a common one, or made from a name. Use several unrelated words',
  ],
  'try-later': [429, 'Too many tries: please wait'],
  'link-used': [410, 'This link has been used, or is too old'],
  'last-lead': [409, 'A school needs a lead'],
  'email-taken': [409, 'Somebody with this address is here already'],
  'wrong-sign-in': [401, 'This e-mail and password do not belong together'],
  'not-allowed': [403, 'This is for the lead of the school'],
  'wrong-host': [421, 'Vane is not known by this address'],
  'other-origin': [403, 'This request came from another site'],
  'not-found': [404, 'There is nothing here'],
  'set-up-done': [409, 'Vane is set up already: please sign in'],
  'name-taken': [409, 'This name is taken already'],
  'class-not-empty': [409, 'There are children in this class: move or delete them first'],
  'too-many-children': [409, 'There are too many children'],
  'too-large': [413, 'This is too large'],
  'too-slow': [408, 'What was sent did not arrive in time'],
  'not-correctable': [422, 'This cannot be put right in this way'],
  'not-an-archive': [422, 'This is not a class saved by Vane'],
  'not-a-roster': [422, 'This is not a roster'],
  'already-here': [409, 'This is in the school already'],
  'no-record-store': [502, 'The learning-record store did not take it'],
  'no-roster-service': [502, 'The roster service did not answer'],
  'not-a-responses-file': [422, 'This is not a file of responses'],
  'nothing-to-print': [422, 'There is nothing to print: choose a number, and a layout that can show it'],
  'too-many-cards': [422, 'These are too many cards for one print'],
  'disk-full': [507, 'The server’s disk is full: nothing was changed'],
  'database-down': [503, 'The database does not answer'],
  failed: [500, 'Something went wrong on the server'],
} as const satisfies Record<string, readonly [ContentfulStatusCode, string]>;

export type ProblemCode = keyof typeof PROBLEMS;

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
  const [status, title] = PROBLEMS[code];
  const body: Problem = { type: `urn:vane:${code}`, title, status, code, ...more };
  return c.body(JSON.stringify(body), status, { 'content-type': 'application/problem+json' });
}
