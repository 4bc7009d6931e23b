import {
  AIDS,
  ANSWER_MODES,
  english,
  EXPLANATIONS,
  FACT_KINDS,
  FLAGS,
  HELPS,
  isFree,
  LAYOUTS,
  OUTCOMES,
  SIGNS,
  type Response,
} from '@vane/core';
import { someResponse } from '@vane/core/testing/response';
import fc from '@vane/core/testing/property';
import { recordRow, toResponse, toRow } from './record';
import { readFileSync } from 'node:fs';
import { ADDED_COLUMNS, csvCells, missingColumns, readCsvRow, RECORD_COLUMNS } from './recordCsv';
import { reasonText } from './readingsCsv';
import { carpetSettings, DEFAULT_CARPET, setUpRequest } from './requests';

const anyResponse: fc.Arbitrary<Response> = fc
  .record({
    number: fc.nat(10),
    kind: fc.constantFrom('add' as const, 'show' as const, 'match' as const),
    mode: fc.constantFrom('tap' as const, 'spoken' as const),
    ms: fc.option(fc.integer({ min: 0, max: 600_000 })),
    sign: fc.option(fc.constantFrom(...SIGNS)),
    finer: fc.subarray(['fingers', 'lips']),
    flags: fc.subarray([...FLAGS]),
    explanation: fc.option(fc.constantFrom(...EXPLANATIONS)),
    help: fc.subarray([...HELPS]),
    second: fc.constantFrom('', '6'),
    at: fc.integer({ min: 0, max: 4e12 }),
    spoiled: fc.boolean(),
    who: fc.constantFrom('', '1f2e3d4c'),
  })
  .map(({ number, kind, mode, ms, sign, finer, flags, explanation, help, second, at, spoiled, who }) => ({
    id: `id-${number}`,
    child: 'Zadie',
    sitting: 'sitting-1',
    shownAt: at,
    kind,
    fact: { add: `${number}+0`, show: `show:${number}:frame-pairs`, match: `match:${number}` }[kind],
    answerMode: mode,
    exposureMs: kind === 'show' ? 750 : null,
    responseMs: ms,
    given: ms === null ? '' : String(number),
    outcome: ms === null ? ('none' as const) : ('correct' as const),
    sign,
    finerSigns: finer,
    aid: 'none' as const,
    void: spoiled ? 'spoiled' : '',
    flags,
    explanation,
    help,
    secondAnswer: second,
    markedBy: who,
    device: who && `d${who}`,
  }));

const row = toRow(someResponse({ id: 'r1', child: 'Zadie', sitting: 's1' }));

describe('the record', () => {
  it('comes back from a row, and from a line of CSV, as it was', () => {
    fc.assert(
      fc.property(anyResponse, (response) => {
        const there = toRow(response);
        expect(toResponse(recordRow.parse(there))).toEqual(response);
        const read = readCsvRow(csvCells(there));
        expect(read).toMatchObject({ ok: true });
        if (read.ok) expect(toResponse(read.row)).toEqual(response);
      }),
    );
  });

  it.each([
    ['fact', { fact: '3+9' }, /^fact: "3\+9" is not a fact: its whole/],
    ['kind', { fact: '7-3' }, 'fact: "7-3" is of kind subtract, not add.'],
    ['time', { response_ms: 'quick' }, 'response_ms: “quick” is not a number.'],
    ['negative time', { response_ms: '-5' }, 'response_ms: “-5” is too small or too large.'],
    ['date', { shown_at: '25.11.2026' }, 'shown_at: “25.11.2026” is not a date and time that Vane understands. Write it as 2026-12-01 09:15.'], // prettier-ignore
    ['outcome', { outcome: 'good' }, /^outcome: “good” is none of correct, wrong/],
    ['sign', { observed: 'dreamt' }, /^observed: must begin with knew/],
    ['flag', { flags: 'odd' }, /^flags: “odd” is none of /],
    ['name that is too long', { child: 'Zadie'.repeat(20) }, /^child: “Zadie.* …” is too long\.$/],
    ['null character', { child: 'Za\u0000die' }, /control characters/],
    ['no id', { response_id: '' }, 'response_id: there is nothing in it.'],
  ])('names a bad %s', (_, change, reason) => {
    const read = readCsvRow({ ...csvCells(row), ...change });
    if (read.ok) throw new Error('was taken');
    const { column, text, problem, detail } = read.bad;
    expect(english.imports.cell(column, text, problem, detail)).toMatch(reason);
  });

  it('keeps columns it does not know', () => {
    const read = readCsvRow({ ...csvCells(row), room: 'boat shed' });
    expect(read.ok && read.row.extra).toEqual({ room: 'boat shed' });
    expect(read.ok && csvCells(read.row)['room']).toBe('boat shed');
  });

  it('takes whole routines with a free fact, and bonds written as missing parts', () => {
    expect(recordRow.safeParse({ ...row, kind: 'ways', fact: '7' }).success).toBe(true);
    expect(recordRow.safeParse({ ...row, kind: 'bond', fact: '3+?=7' }).success).toBe(true);
  });

  it('reads a file from before columns were added', () => {
    const cells = Object.fromEntries(Object.entries(csvCells(row)).filter(([name]) => !ADDED_COLUMNS.includes(name)));
    const read = readCsvRow(cells);
    expect(read.ok && read.row).toMatchObject({ flags: [], explanation: '', help: [], second_answer: '', extra: {} });
  });

  it('has every column and every one of its words on the page of formats', () => {
    const page = readFileSync(new URL('../../docs/formats.md', import.meta.url), 'utf8');
    expect(page).toContain(`\`${RECORD_COLUMNS.join(',')}\``);
    for (const name of [...RECORD_COLUMNS, ...ADDED_COLUMNS]) expect(page).toContain(`| \`${name}\` `);
    for (const words of [ANSWER_MODES, OUTCOMES, AIDS, FLAGS, EXPLANATIONS, HELPS, LAYOUTS])
      expect(page).toContain(words.join(' '));
    for (const free of [true, false])
      expect(page).toContain(FACT_KINDS.filter((kind) => isFree(kind) === free).join(' '));
  });

  it('says which columns a file lacks', () => {
    expect(missingColumns([...RECORD_COLUMNS, 'more'])).toEqual([]);
    expect(missingColumns(['child', 'fact'])).toContain('response_id');
  });
});

describe('requests', () => {
  it('has defaults that are valid', () => expect(carpetSettings.parse(DEFAULT_CARPET)).toEqual(DEFAULT_CARPET));
  it('never asks for a flash shorter than 200 ms', () =>
    expect(carpetSettings.safeParse({ ...DEFAULT_CARPET, exposureMs: 50 }).success).toBe(false));
  it('wants every nickname once, and a long password', () => {
    const wish = {
      code: 'HARBOUR234',
      school: 'S',
      className: 'C',
      name: 'N',
      email: 'a@b.example',
      password: 'twelve-or-more',
      children: ['Ivo', 'ivo'],
    };
    expect(setUpRequest.safeParse(wish).success).toBe(false);
    expect(setUpRequest.safeParse({ ...wish, children: [' Ivo '] }).data?.children).toEqual(['Ivo']);
    expect(setUpRequest.safeParse({ ...wish, children: [], password: 'short' }).success).toBe(false);
  });
});

it('writes reasons for files', () => {
  expect(reasonText({ code: 'needs-answers', more: 2 })).toBe('needs-answers 2');
  expect(reasonText({ code: 'leads', strategy: 'count' })).toBe('leads count');
  expect(reasonText({ code: 'in-between' })).toBe('in-between');
});
