import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { partOf, write } from './benchPage.mjs';
import { ensureNodeModules, ROOT, Trouble } from './setup.mjs';
import { beginMeasuring, measuredOn } from './machine.mjs';

/** Folders of `core` whose tests are held against changed code (what judges, plans, asks, prints and tells the time), and in how many parts: each part takes at most half an hour. */
const FOLDERS = {
  reading: 4,
  plan: 3,
  routines: 4,
  prints: 1,
  trial: 1,
  latency: 1,
  time: 1,
  mistakes: 1,
  facts: 1,
  layouts: 1,
};

/** A part's name: its folder, and its number where there are several. */
const PARTS = Object.entries(FOLDERS).flatMap(([folder, count]) =>
  Array.from({ length: count }, (_, k) => ({ folder, k, count, name: count === 1 ? folder : `${folder}-${k + 1}` })),
);

/** The folder's files dealt to its parts, the longest first, always to the part with the fewest lines. */
function filesOf({ folder, k, count }) {
  const path = `core/src/${folder}`;
  const sized = readdirSync(join(ROOT, path))
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.spec.ts'))
    .map((name) => ({
      file: `${path}/${name}`,
      lines: readFileSync(join(ROOT, path, name), 'utf8').split('\n').length,
    }))
    .sort((a, b) => b.lines - a.lines || (a.file < b.file ? -1 : 1));
  const parts = Array.from({ length: count }, () => ({ lines: 0, files: [] }));
  for (const { file, lines } of sized) {
    const shortest = parts.reduce((a, b) => (b.lines < a.lines ? b : a));
    shortest.lines += lines;
    shortest.files.push(file);
  }
  return parts[k].files;
}

/** One part's figures. Static mutants, which are made once when a file is loaded, are left out. */
function figures(report) {
  const all = Object.values(report.files).flatMap(({ mutants }) => mutants);
  const count = (...statuses) => all.filter(({ status }) => statuses.includes(status)).length;
  const caught = count('Killed', 'Timeout');
  return { caught, counted: caught + count('Survived', 'NoCoverage'), unseen: count('NoCoverage') };
}

const HEAD = ['| part | changes | caught | share | in no test’s way | measured |', '|---|---|---|---|---|---|'];
const rowOf = (name, { caught, counted, unseen }, tookS) => {
  const share = `${((100 * caught) / Math.max(1, counted)).toFixed(0)} %`;
  const when = `${new Date().toISOString().slice(0, 10)}, ${Math.ceil(tookS / 60)} min`;
  return `| ${name} | ${counted} | ${caught} | ${share} | ${unseen} | ${when} |`;
};

/** Lines of survivors and of what no test goes through, for whoever looks at them one by one. */
function survivors(report) {
  return Object.entries(report.files).flatMap(([file, { mutants }]) =>
    mutants
      .filter(({ status }) => status === 'Survived' || status === 'NoCoverage')
      .map((one) => `${file}:${one.location.start.line} ${one.mutatorName} → ${one.replacement?.replace(/\s+/g, ' ')}`),
  );
}

/** The page's rows, with this part's in its place. */
function withRow(name, row) {
  const known = new Map([...partOf('mutation').matchAll(/^\| ([\w-]+) \| \d.*$/gm)].map(([line, key]) => [key, line]));
  known.set(name, row);
  return PARTS.flatMap((part) => known.get(part.name) ?? []);
}

/** Breaks one part's code, and keeps its figures. */
function breakPart({ name, folder, ...rest }) {
  beginMeasuring();
  const began = Date.now();
  const { status } = spawnSync(join(ROOT, 'node_modules/.bin/stryker'), ['run'], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, VANE_MUTATED: folder, VANE_PART: name, VANE_FILES: filesOf({ folder, ...rest }).join(',') },
  });
  if (status !== 0) throw new Trouble(`The tests of ${name} could not be tried on changed code.`);
  const report = JSON.parse(readFileSync(join(ROOT, `node_modules/.cache/stryker/${name}.json`), 'utf8'));
  for (const line of survivors(report)) console.log(line);
  const row = rowOf(name, figures(report), (Date.now() - began) / 1000);
  console.log(row);
  write(
    'mutation',
    `## Mutation testing

\`npm run mutation\` changes the code of \`core\` in small ways, folder by folder, and runs the folder's quick tests against each change; large folders in parts of half an hour. Caught: a test fails, or never ends. Not counted: what is made once when a file is loaded. What judges whole classes is left out, since every change would run it.

${[...HEAD, ...withRow(name, row)].join('\n')}

Newest: ${name}. ${measuredOn()}`,
  );
}

/** `npm run mutation`, of all parts or of the folders and parts named: breaks the code of `core` in small ways, and keeps in docs/benchmarks.md how much of it a test notices. */
export async function mutation(args) {
  const named = (one) => PARTS.filter(({ folder, name }) => one === folder || one === name);
  const unknown = args.find((one) => named(one).length === 0);
  if (unknown)
    throw new Trouble(
      `"${unknown}" is not known. Usage: npm run mutation -- [${PARTS.map(({ name }) => name).join(' | ')}]`,
    );
  await ensureNodeModules();
  for (const part of args.length > 0 ? args.flatMap(named) : PARTS) breakPart(part);
  return 0;
}
