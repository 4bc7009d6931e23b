import * as z from 'zod';
import * as adults from './adults';
import * as answers from './answers';
import { keptDay, keptWeek } from './arrangements';
import { correctionRequest, logQuery } from './corrections';
import * as helpers from './helpers';
import { howMeasured, id } from './judged';
import * as people from './people';
import { groupSheetRequest, groupSheetView, printRequest } from './prints';
import { carpetSettings, overruleRequest, recordBatch, setUpRequest, signInRequest } from './requests';
import { openedScreen, pairRequest, screenState } from './screens';
import { day } from './text';
import type { Told } from './told';

/** What a route is sent and what it answers with. */
interface Described {
  /** What is sent as JSON. */
  readonly body?: z.ZodType;
  /** Bytes that are sent: `largest` of them at most. */
  readonly file?: { readonly largest: number };
  /** Most bytes of the body, where it is not as usual. */
  readonly largest?: number;
  readonly query?: z.ZodType<Readonly<Record<string, unknown>>>;
  /** What is answered as JSON; a file, or events as they happen; left out where there is nothing to tell. */
  readonly answer?: z.ZodType | 'file' | 'events';
  /** Of a good answer; 200 or 204 where it is not named. */
  readonly status?: 201;
}

const MEGABYTE = 1024 * 1024;
/** Look at a file, or take it in. */
const write = z.object({ write: z.enum(['yes', 'no']).default('no') });
/** The same for responses: in which order dates are read, and which names mean which children, as JSON. */
const writeResponses = write.extend({
  order: answers.fileDates.shape.order.optional(),
  names: z
    .string()
    .max(4000)
    .transform((text, at): unknown => {
      try {
        return JSON.parse(text);
      } catch {
        at.addIssue('is no JSON');
        return z.NEVER;
      }
    })
    .pipe(z.record(z.string(), z.string()))
    .optional(),
});
const until = z.object({ until: day.optional() });
const taken = z.strictObject({ responses: z.number().int() });
/** `left`: nicknames of children who have moved to another class, or of whom something else is kept meanwhile. */
const takenBack = taken.extend({ left: z.array(z.string()) });
const made = z.strictObject({ id });

/**
 * Every route under /api, by method and path: the server's routes and the page's requests are made from this table, and the page holds what it is told against it in development and tests.
 * A part of a path that ends in `id` or `Id` is a UUID; one that is none is not found. `/classes/:classId` and what is below it is for the class's own adults, `/school` for a lead, `/me` for
 * whoever is signed in, `/board/stage` and `/board/events` for a paired screen, `/helper/sheet` and `/helper/answers` for a helper with a day's link,
 */
export const ROUTES = {
  'GET /health': { answer: answers.health },
  'GET /clock': { query: z.object({ question: z.string().optional() }), answer: z.strictObject({ at: z.number() }) },

  'GET /door': { answer: answers.door },
  'POST /set-up': { body: setUpRequest, answer: answers.me, status: 201 },
  'POST /sign-in': { body: signInRequest, answer: answers.me },
  'POST /sign-out': {},
  'GET /join/:token': { answer: adults.invitation },
  'POST /join': { body: adults.joinRequest, answer: answers.me, status: 201 },
  'POST /forgotten': { body: adults.resetWish },
  'POST /reset': { body: adults.resetRequest },

  'GET /me': { answer: answers.me },
  'PUT /me/password': { body: adults.passwordChange },
  'PUT /me/pin': { body: adults.pinChange },
  'POST /me/care-read': {},
  'POST /me/active': {},
  'POST /me/lock': { answer: z.strictObject({ locked: z.boolean() }) },
  'POST /me/unlock': { body: adults.unlockRequest },
  'POST /me/sign-out-everywhere': {},

  'GET /classes/:classId': { answer: answers.classView },
  'PUT /classes/:classId/carpet': { body: carpetSettings },
  'PUT /classes/:classId/day-plan': { body: keptDay },
  'PUT /classes/:classId/week-settings': { body: keptWeek },
  'GET /classes/:classId/readings': { answer: answers.classReadings },
  'GET /classes/:classId/measuring/:device': { answer: z.array(howMeasured) },
  'GET /classes/:classId/over-time': { answer: people.overTime },
  'POST /classes/:classId/children': { body: people.addChildrenRequest },
  'GET /classes/:classId/children/:childId': { query: until, answer: answers.childRecord },
  'PUT /classes/:classId/children/:childId': { body: people.childChange },
  'DELETE /classes/:classId/children/:childId': { answer: taken },
  'GET /classes/:classId/children/:childId/moved': { query: until, answer: answers.lastSession },
  'GET /classes/:classId/children/:childId/over-time': { answer: people.overTime },
  'GET /classes/:classId/children/:childId/record.json': { answer: 'file' },
  'GET /classes/:classId/children/:childId/responses.csv': { answer: 'file' },
  'POST /classes/:classId/children/:childId/overrules': {
    body: overruleRequest,
    answer: z.array(people.overruleView),
    status: 201,
  },
  'DELETE /classes/:classId/children/:childId/overrules/:id': { answer: z.array(people.overruleView) },
  'POST /classes/:classId/notes': { body: people.noteRequest },
  'DELETE /classes/:classId/notes/:id': {},

  'POST /classes/:classId/record': { body: recordBatch, largest: 4 * MEGABYTE, answer: answers.batchResult },
  'GET /classes/:classId/log': { query: logQuery, answer: answers.logPage },
  'POST /classes/:classId/corrections': {
    body: correctionRequest,
    answer: z.strictObject({ changed: z.number().int() }),
  },

  'GET /classes/:classId/responses.csv': { answer: 'file' },
  'GET /classes/:classId/readings.csv': { answer: 'file' },
  'GET /classes/:classId/archive.json': { answer: 'file' },
  'GET /classes/:classId/statements/:form{json|jsonl}': { answer: 'file' },
  'POST /classes/:classId/statements': { answer: answers.handedOver },
  // A year of a class is about 25 MB of CSV, and twice that as an archive.
  'POST /classes/:classId/import': {
    file: { largest: 96 * MEGABYTE },
    query: writeResponses,
    answer: answers.importResult,
  },
  'GET /classes/:classId/imports': { answer: z.array(answers.importView) },
  'DELETE /classes/:classId/imports/:id': { answer: takenBack },

  'POST /classes/:classId/prints': { body: printRequest, answer: 'file' },
  'POST /classes/:classId/cards.zip': { body: printRequest, answer: 'file' },
  'GET /classes/:classId/group-sheets': { answer: z.array(groupSheetView) },
  'POST /classes/:classId/group-sheets': { body: groupSheetRequest, answer: groupSheetView, status: 201 },
  'PUT /classes/:classId/group-sheets/:code/keyed': {},
  'POST /classes/:classId/group-sheets/:code/link': { answer: helpers.helperLink, status: 201 },
  'DELETE /classes/:classId/group-sheets/:code/link': {},
  'POST /helper/open': { body: helpers.openHelper },
  'GET /helper/sheet': { answer: helpers.helperSheet },
  'POST /helper/answers': { body: helpers.helperAnswers, answer: answers.batchResult },

  'POST /classes/:classId/screens': { answer: openedScreen, status: 201 },
  'PUT /classes/:classId/screens/:id': { body: screenState },
  'GET /classes/:classId/screens/:id/events': { answer: 'events' },
  'DELETE /classes/:classId/screens/:id': {},
  'POST /board/pair': { body: pairRequest },
  'PUT /board/stage': { body: screenState },
  'GET /board/stage': { answer: z.strictObject({ seq: z.number().int() }) },
  'GET /board/events': { answer: 'events' },

  'GET /school': { answer: adults.schoolView },
  'PUT /school/keep': { body: adults.keepChange },
  'PUT /school/time-zone': { body: adults.timeZoneChange },
  'PUT /school/days-off': { body: adults.daysOffChange },
  'POST /school/invites': { body: adults.inviteRequest, answer: adults.invited, status: 201 },
  'DELETE /school/invites/:id': {},
  'PUT /school/adults/:id': { body: adults.adultChange },
  'DELETE /school/adults/:id': {},
  'GET /school/audit': {
    query: z.object({ offset: z.coerce.number().int().min(0).max(1_000_000).catch(0) }),
    answer: z.array(adults.auditView),
  },
  'GET /school/work': { answer: z.array(people.workView) },
  'GET /school/mail': { answer: z.array(adults.letterView) },
  'GET /school/classes': { answer: z.array(people.schoolClassView) },
  'POST /school/classes': { body: people.classRequest, answer: made, status: 201 },
  'PUT /school/classes/:id': { body: people.classChange },
  'DELETE /school/classes/:id': {},
  'POST /school/classes/:id/roll-over': { body: people.rollOverRequest, answer: made, status: 201 },
  'GET /school/roster.zip': { answer: 'file' },
  'GET /school/roster-service': { answer: 'file' },
  'POST /school/roster': { file: { largest: 8 * MEGABYTE }, query: write, answer: answers.importResult },
  'POST /school/archive': { file: { largest: 96 * MEGABYTE }, query: write, answer: answers.importResult },
  'GET /school/imports': { answer: z.array(answers.importView) },
  'DELETE /school/imports/:id': { answer: takenBack },
} as const satisfies Readonly<Record<`${'GET' | 'POST' | 'PUT' | 'DELETE'} /${string}`, Described>>;

export type Routes = typeof ROUTES;
/** Method and path of a route. */
export type RouteName = keyof Routes;

type Named<Part extends string> = Part extends `:${infer Name}{${string}}`
  ? Name
  : Part extends `:${infer Name}`
    ? Name
    : never;
type Names<Path extends string> = Path extends `${infer Part}/${infer Rest}` ? Named<Part> | Names<Rest> : Named<Path>;
/** What the path of a route leaves open. */
export type Places<K extends RouteName> = Readonly<Record<Names<K>, string>>;

type BodyOf<R> = R extends { readonly body: infer B extends z.ZodType } ? B : never;
type QueryOf<R> = R extends { readonly query: infer Q extends z.ZodType } ? Q : never;
/** What a route takes as it is sent: with what has a usual value left out or not. */
export type Sent<K extends RouteName> = Places<K> &
  ([BodyOf<Routes[K]>] extends [never] ? object : { readonly body: Told<z.input<BodyOf<Routes[K]>>> }) &
  ([QueryOf<Routes[K]>] extends [never] ? object : { readonly query?: Partial<Told<z.output<QueryOf<Routes[K]>>>> });
/** The same once it was looked through. */
export type Taken<K extends RouteName> = Places<K> &
  ([BodyOf<Routes[K]>] extends [never] ? object : { readonly body: z.output<BodyOf<Routes[K]>> }) &
  ([QueryOf<Routes[K]>] extends [never] ? object : { readonly query: z.output<QueryOf<Routes[K]>> });
/** What a route answers with as JSON; nothing where it has nothing to tell, never where it answers otherwise. */
export type Answer<K extends RouteName> = Routes[K] extends { readonly answer: infer A }
  ? A extends z.ZodType
    ? Told<z.output<A>>
    : never
  : void;

/** What is wrong with an answer, by its places; null where it is as the table says. */
export function wrongIn(name: RouteName, answer: unknown): string | null {
  const { answer: schema } = ROUTES[name] as Described;
  if (!(schema instanceof z.ZodType)) return null;
  const { error } = schema.safeParse(answer);
  return error === undefined ? null : `${name} answers otherwise than described: ${z.prettifyError(error)}`;
}
