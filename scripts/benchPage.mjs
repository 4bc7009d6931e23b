import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './setup.mjs';

/** The page that measurements are kept on: a part under each mark, in the order in which they were first measured. */
const PAGE = join(ROOT, 'docs/benchmarks.md');

function read() {
  const [title, ...rest] = readFileSync(PAGE, 'utf8').split(/^<!-- (\w+) -->$/m);
  const parts = new Map();
  for (let i = 0; i < rest.length; i += 2) parts.set(rest[i], rest[i + 1]);
  return { title, parts };
}

/** What stands there of a part; empty where it was never measured. */
export const partOf = (name) => read().parts.get(name) ?? '';

/** Puts a part's text in its place; the others stay as they were measured. */
export function write(name, text) {
  const { title, parts } = read();
  parts.set(name, text);
  const told = [...parts].map(([one, own]) => `<!-- ${one} -->\n\n${own.trim()}\n\n`);
  writeFileSync(PAGE, `${(title + told.join('')).trimEnd()}\n`);
}
