import { classArchive, readingRow, recordRow, statement } from '@vane/contract';
import { parse } from 'csv-parse/sync';
import { readFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import type * as z from 'zod';
import { readResponses } from '../record/csv';
import { formatFiles } from './formatFiles';

const FOLDER = new URL('../../../docs/formats/', import.meta.url);

it('docs/formats holds the schemas and examples that the contract makes today', () => {
  for (const [name, text] of formatFiles())
    expect([name, readFileSync(new URL(name, FOLDER), 'utf8')]).toEqual([name, text]);
});

it('every example is one of its format', async () => {
  const files = formatFiles();
  const text = (name: string): string => files.get(name) ?? '';
  for await (const line of readResponses(Readable.from([text('responses.csv')])))
    expect('row' in line && recordRow.safeParse(line.row).success).toBe(true);
  const readings: unknown[] = parse(text('readings.csv'), { columns: true });
  expect(readings.length).toBeGreaterThan(10);
  for (const one of readings) expect(readingRow.safeParse(one).error).toBeUndefined();
  expect(classArchive.safeParse(JSON.parse(text('class.vane.json'))).error).toBeUndefined();
  for (const line of text('statements.jsonl').trimEnd().split('\n'))
    expect(statement.safeParse(JSON.parse(line)).error).toBeUndefined();
});

it('the schemas say what is needed', () => {
  const made = JSON.parse(formatFiles().get('responses.schema.json') ?? '') as z.core.JSONSchema.JSONSchema;
  expect(made.required).toEqual(expect.arrayContaining(['response_id', 'child', 'fact', 'answer_mode']));
});
