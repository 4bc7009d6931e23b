import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { partOf, write } from './benchPage.mjs';
import { ensureNodeModules, ROOT, Trouble } from './setup.mjs';
import { beginMeasuring, measuredOn } from './machine.mjs';

/** Folders of `core` whose tests are held against changed code: what judges, plans, asks, prints and tells the time. Each takes at most half an hour. */
const FOLDERS = ['reading', 'plan', 'routines', 'prints', 'trial', 'latency', 'time', 'mistakes', 'facts', 'layouts'];

/** One folder's figures. Static mutants, which are made once when a file is loaded, are left out. */
function figures(folder) {
  const report = JSON.parse(readFileSync(join(ROOT, `node_modules/.cache/stryker/${folder}.json`), 'utf8'));
  const all = Object.values(report.files).flatMap(({ mutants }) => mutants);
  const count = (...statuses) => all.filter(({ status }) => statuses.includes(status)).length;
  const caught = count('Killed', 'Timeout');
  return { caught, counted: caught + count('Survived', 'NoCoverage'), unseen: count('NoCoverage') };
}

const HEAD = ['| folder | changes | caught | share | in no test’s way | measured |', '|---|---|---|---|---|---|'];
const rowOf = (folder, { caught, counted, unseen }, tookS) => {
  const share = `${((100 * caught) / Math.max(1, counted)).toFixed(0)} %`;
  const when = `${new Date().toISOString().slice(0, 10)}, ${Math.ceil(tookS / 60)} min`;
  return `| ${folder} | ${counted} | ${caught} | ${share} | ${unseen} | ${when} |`;
};

/** Lines of survivors and of what no test goes through, for whoever looks at them one by one. */
function survivors(folder) {
  const report = JSON.parse(readFileSync(join(ROOT, `node_modules/.cache/stryker/${folder}.json`), 'utf8'));
  return Object.entries(report.files).flatMap(([file, { mutants }]) =>
    mutants
      .filter(({ status }) => status === 'Survived' || status === 'NoCoverage')
      .map((one) => `${file}:${one.location.start.line} ${one.mutatorName} → ${one.replacement?.replace(/\s+/g, ' ')}`),
  );
}

/** The page's rows, with this folder's in its place. */
function withRow(folder, row) {
  const known = new Map([...partOf('mutation').matchAll(/^\| (\w+) \| \d.*$/gm)].map(([line, name]) => [name, line]));
  known.set(folder, row);
  return FOLDERS.flatMap((one) => known.get(one) ?? []);
}

/** `npm run mutation`, of all folders or of those named: breaks the code of `core` in small ways, and keeps in docs/benchmarks.md how much of it a test notices. */
export async function mutation(args) {
  const unknown = args.find((one) => !FOLDERS.includes(one));
  if (unknown) throw new Trouble(`"${unknown}" is not known. Usage: npm run mutation -- [${FOLDERS.join(' | ')}]`);
  await ensureNodeModules();
  for (const folder of args.length > 0 ? args : FOLDERS) {
    beginMeasuring();
    const began = Date.now();
    const { status } = spawnSync(join(ROOT, 'node_modules/.bin/stryker'), ['run'], {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, VANE_MUTATED: folder },
    });
    if (status !== 0) throw new Trouble(`The tests of ${folder} could not be tried on changed code.`);
    for (const line of survivors(folder)) console.log(line);
    const row = rowOf(folder, figures(folder), (Date.now() - began) / 1000);
    console.log(row);
    write(
      'mutation',
      `## Mutation testing

\`npm run mutation\` changes the code of \`core\` in small ways, folder by folder, and runs the folder's quick tests against each change. Caught: a test fails, or never ends. Not counted: what is made once when a file is loaded. What judges whole classes is left out, since every change would run it.

${[...HEAD, ...withRow(folder, row)].join('\n')}

Newest: ${folder}. ${measuredOn()}`,
    );
  }
  return 0;
}
