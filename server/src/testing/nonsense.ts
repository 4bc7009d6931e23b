import fc from 'fast-check';
import { rowFor, SITTING } from './rows';

/** Hostile and malformed input. */
export const nonsense = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    '',
    [],
    {},
    true,
    -1,
    0.5,
    1e308,
    '\u0000',
    '\ud800',
    '\u202e',
    '💧'.repeat(30),
    'x'.repeat(5000),
    "'; drop table child; --",
    '../../etc/passwd',
    '2026-13-45',
  ),
  fc.uuid(),
  fc.json().map((text) => JSON.parse(text) as unknown),
  fc.string({ unit: 'binary', maxLength: 40 }),
  fc
    .nat({ max: 6 })
    .map((depth) => Array.from({ length: depth }).reduce<unknown>((inner) => ({ inner: [inner] }), 'deep')),
);

/** A good body with one place, at any depth, replaced, taken out or added to. */
export const spoiled = (good: object) =>
  fc.tuple(fc.nat(), nonsense, fc.constantFrom('replace', 'remove', 'add', 'whole')).map(([at, bad, how]) => {
    if (how === 'whole') return bad;
    const body = JSON.parse(JSON.stringify(good)) as Record<string, unknown>;
    const places: [Record<string, unknown>, string][] = [];
    const walk = (node: unknown): void => {
      if (typeof node !== 'object' || node === null) return;
      for (const key of Object.keys(node)) {
        places.push([node as Record<string, unknown>, key]);
        walk((node as Record<string, unknown>)[key]);
      }
    };
    walk(body);
    const place = places[at % Math.max(1, places.length)];
    if (!place) return bad;
    if (how === 'add') body['strange'] = bad;
    else if (how === 'remove') delete place[0][place[1]];
    else place[0][place[1]] = bad;
    return body;
  });

/** A day and a week as a device arranges them. */
export const DAY = {
  changedAt: 1,
  date: '2026-11-25',
  plan: { aim: 'practise', minutes: 8, pinned: ['pairs'], skipped: [], order: [], swapped: [['a', 'b']] },
};
export const WEEK = {
  changedAt: 1,
  settings: { adults: 1, minutes: 15, group: 4, times: 2, away: [{ child: 'a', from: 3, to: 5 }] },
};

/** A class of one's own, and somebody else's. */
export interface World {
  /** Path of the class. */
  readonly path: string;
  readonly child: string;
  readonly other: { readonly school: string; readonly class: string; readonly child: string };
}

/** Everything that can be changed, each with a good body. */
export function changes({ path, child: odo, other }: World): (readonly ['POST' | 'PUT' | 'DELETE', string, object])[] {
  return [
    ['POST', '/api/sign-in', { email: 'a@b.example', password: 'x' }],
    [
      'POST',
      '/api/set-up',
      {
        code: 'X',
        school: 'S',
        className: 'C',
        name: 'N',
        email: 'a@b.example',
        password: 'long enough here',
        children: ['A'],
      },
    ],
    ['POST', '/api/join', { token: 'x'.repeat(32), name: 'N', password: 'long enough here' }],
    ['POST', '/api/forgotten', { email: 'a@b.example' }],
    ['POST', '/api/reset', { token: 'x'.repeat(32), password: 'long enough here' }],
    ['POST', '/api/board/pair', { code: 'ABC234' }],
    ['PUT', '/api/board/stage', { seq: 1, state: {} }],
    ['POST', '/api/me/unlock', { pin: '1234' }],
    ['PUT', '/api/me/password', { old: 'x', password: 'long enough here' }],
    ['POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(odo, { response_id: 'f1' })] }],
    ['POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'child', child: other.child } }],
    ['PUT', `${path}/carpet`, { layout: 'five', exposureMs: 500, answerMode: 'tap', shows: 5, zeroToo: false }],
    ['PUT', `${path}/day-plan`, DAY],
    ['PUT', `${path}/week-settings`, WEEK],
    ['POST', `${path}/children`, { nicknames: ['Fenn'] }],
    ['PUT', `${path}/children/${odo}`, { classId: other.class }],
    ['PUT', `${path}/children/${other.child}`, { nickname: 'Mine' }],
    ['POST', `${path}/children/${odo}/overrules`, { fact: '3+4', reading: 'knows', reason: 'because' }],
    ['POST', `${path}/notes`, { child: other.child, text: 'hello' }],
    ['POST', `${path}/screens`, {}],
    ['POST', `${path}/prints`, { what: 'home-sheet', child: other.child }],
    ['POST', `${path}/cards.zip`, { what: 'dominoes', numbers: [2] }],
    ['POST', `${path}/group-sheets`, { children: [other.child], facts: ['3+4'] }],
    ['POST', `${path}/import?write=yes`, {}],
    ['POST', '/api/school/roster?write=yes', {}],
    ['POST', '/api/school/archive?write=yes', { format: 'vane-class', version: 1, class: {}, children: [] }],
    ['DELETE', `${path}/imports/${other.child}`, {}],
    ['PUT', `${path}/screens/${other.child}`, { seq: 1, state: { trial: 1 } }],
    ['POST', '/api/school/classes', { name: 'X' }],
    ['POST', '/api/school/invites', { name: 'N', email: 'n@b.example', role: 'teacher', classes: [other.class] }],
    ['PUT', '/api/school/keep', { keepMonths: 12 }],
    ['PUT', `/api/school/adults/${other.child}`, { classes: [other.class] }],
    ['POST', `/api/school/classes/${other.class}/roll-over`, { name: 'Y', children: [other.child] }],
    ['DELETE', `${path}/children/${other.child}/overrules/${other.child}`, {}],
    ['DELETE', `${path}/notes/${other.child}`, {}],
    ['DELETE', `${path}/screens/${other.child}`, {}],
    ['PUT', `${path}/group-sheets/ABC234/keyed`, {}],
    ['POST', `${path}/statements`, {}],
    ['DELETE', `/api/school/imports/${other.child}`, {}],
    ['PUT', `/api/school/classes/${other.class}`, { name: 'Mine' }],
    ['DELETE', `/api/school/classes/${other.class}`, {}],
    ['DELETE', `/api/school/invites/${other.child}`, {}],
    ['DELETE', `/api/school/adults/${other.child}`, {}],
    ['PUT', '/api/me/pin', { pin: '4711', old: '0000' }],
    ['POST', '/api/me/care-read', {}],
    ['POST', '/api/me/lock', {}],
    ['POST', '/api/me/sign-out-everywhere', {}],
    ['POST', '/api/sign-out', {}],
    ['DELETE', `/api/classes/${other.class}/children/${other.child}`, {}],
  ];
}

/** Everything that can be asked for. */
export function questions({ path, child, other }: World): string[] {
  const both = (what: (id: string) => string): string[] => [child, other.child].map((id) => what(id));
  const ofClass = [
    '',
    '/log',
    '/readings',
    '/readings.csv',
    '/over-time',
    '/imports',
    '/group-sheets',
    '/responses.csv',
    '/archive.json',
    '/statements/json',
    '/statements/jsonl',
    ...both((id) => `/children/${id}`),
    ...both((id) => `/children/${id}/moved`),
    ...both((id) => `/children/${id}/over-time`),
    ...both((id) => `/children/${id}/record.json`),
    ...both((id) => `/children/${id}/responses.csv`),
    `/screens/${other.child}/events`,
  ];
  const bases = [path, `/api/classes/${other.class}`, '/api/classes/nobody', '/api/classes/%00'];
  const ofSchool = ['', '/classes', '/audit', '/mail', '/imports', '/roster.zip', '/roster-service'];
  const open = ['/api/me', '/api/door', '/api/health', '/api/clock', '/api/board/stage', '/api/board/events'];
  return [
    ...bases.flatMap((base) => ofClass.map((what) => base + what)),
    ...ofSchool.map((what) => `/api/school${what}`),
    ...open,
    `/api/join/${'x'.repeat(32)}`,
    '/',
    '/today',
    '/nothing.js',
  ];
}

/** What is asked for, in ways that no page asks. */
export const QUERIES = [
  '',
  '?offset=-1',
  '?offset=1e9',
  '?offset=%00',
  '?child=%00',
  '?from=2026-99-99',
  '?fact=%25_%5C',
  '?until=%00',
  '?only=all',
  '?until=0000-01-01',
];

/** Bodies that are not even JSON, or not an object. */
export const RAW = ['', '{', 'null', '[1,', '"\u0000"', '{"__proto__":{"role":"lead"}}'];

/** Another school, whose name must never come out. */
export const ELSEWHERE = 'Elsewhere';
export const OTHER: World['other'] = {
  school: '0197b000-0000-7000-8000-000000000001',
  class: '0197b000-0000-7000-8000-000000000002',
  child: '0197b000-0000-7000-8000-000000000003',
};
export const OTHER_ROWS = [
  `insert into school (id, name, created_at) values ('${OTHER.school}', '${ELSEWHERE}', now())`,
  `insert into class (school_id, id, name, created_at) values ('${OTHER.school}', '${OTHER.class}', '${ELSEWHERE}', now())`,
  `insert into child (school_id, id, class_id, nickname, created_at) values ('${OTHER.school}', '${OTHER.child}', '${OTHER.class}', '${ELSEWHERE}', now())`,
];
