import { toRow } from '@vane/contract';
import { CONDITIONS, HARBOUR_CHILDREN, simulateClass, type Condition } from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { headerLine, responseLines } from '../record/csv';

/** `./vane rehearse`: a simulated class as responses.csv, and what is true of it as truth.csv. */
const USAGE = `usage: ./vane rehearse --out DIR [--seed N] [--children N] [--weeks N] [--condition "${CONDITIONS.join('" | "')}"]`;

function fail(message: string): never {
  process.stderr.write(`${message}\n${USAGE}\n`);
  process.exit(2);
}

function whole(name: string, text: string, least: number, most: number): number {
  const n = Number(text);
  if (!Number.isInteger(n) || n < least || n > most)
    fail(`--${name}: "${text}" is no whole number from ${least} to ${most}`);
  return n;
}

function asked() {
  try {
    const text = (value: string) => ({ type: 'string' as const, default: value });
    const { values } = parseArgs({
      options: {
        out: { type: 'string' },
        seed: text('1'),
        children: text('24'),
        weeks: text('6'),
        condition: text('mixed'),
      },
    });
    return values;
  } catch (error) {
    fail(error instanceof Error ? error.message : String(error));
  }
}

const wish = asked();
if (wish.out === undefined) fail('--out names the folder to write to');
const condition =
  CONDITIONS.find((c: Condition) => c === wish.condition) ?? fail(`--condition: there is no "${wish.condition}"`);
const children = whole('children', wish.children, 1, 200);
let made = 0;
const simulated = simulateClass({
  seed: whole('seed', wish.seed, 0, 2 ** 31),
  names: Array.from({ length: children }, (_, i) => HARBOUR_CHILDREN[i] ?? `Child ${i + 1}`),
  weeks: whole('weeks', wish.weeks, 1, 120),
  condition,
  // A fixed end: the same wish gives the same files on any day.
  until: Date.UTC(2026, 5, 26, 12),
  makeId: () => `r${String(made++).padStart(7, '0')}`,
});
mkdirSync(wish.out, { recursive: true });
writeFileSync(
  join(wish.out, 'responses.csv'),
  headerLine([]) +
    responseLines(
      simulated.responses.map((r) => toRow(r)),
      [],
    ),
);
writeFileSync(
  join(wish.out, 'truth.csv'),
  stringify([
    ['child', 'fact', 'retrieve_share'],
    ...simulated.truth.map((t) => [t.child, t.fact, t.retrieveShare.toFixed(3)]),
  ]),
);
process.stdout.write(
  `${simulated.responses.length} responses and ${simulated.truth.length} truths written to ${wish.out}\n`,
);
