import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { WEB_OUT, buildWeb } from './build.mjs';
import { ROOT } from './setup.mjs';

/**
 * The page's messages. `npm run messages` writes those of the code into the first language's file; without `--write` it says what is missing or no longer used in any language's file.
 */
const LANGUAGES = join(ROOT, 'web/src/languages');
const FIRST = 'en-GB';

/** Every message of the built page, by its id. */
function extracted() {
  const folder = mkdtempSync(join(tmpdir(), 'vane-messages-'));
  try {
    const file = join(folder, 'messages.json');
    const ran = spawnSync(
      join(ROOT, 'node_modules/.bin/localize-extract'),
      ['--root', WEB_OUT, '--source', '*.js', '--format', 'json', '--locale', FIRST, '--outputPath', file],
      { encoding: 'utf8' },
    );
    if (ran.status !== 0) throw new Error(`the messages could not be read:\n${ran.stderr || ran.stdout}`);
    return JSON.parse(readFileSync(file, 'utf8')).translations;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const read = (file) => JSON.parse(readFileSync(join(LANGUAGES, file), 'utf8')).translations;

/** What is wrong with a language's messages, in words; empty when all is well. */
export function faultsOf(language, messages, code) {
  const told = (ids, from, what) => ids.map((id) => `${language}: ${what}: ${id} “${from[id]}”`);
  return [
    ...told(
      Object.keys(code).filter((id) => !(id in messages)),
      code,
      'missing',
    ),
    ...told(
      Object.keys(messages).filter((id) => !(id in code)),
      messages,
      'not used',
    ),
  ];
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  await buildWeb();
  const code = extracted();
  if (process.argv.includes('--write')) {
    const translations = Object.fromEntries(Object.entries(code).sort(([a], [b]) => (a < b ? -1 : 1)));
    writeFileSync(join(LANGUAGES, `${FIRST}.json`), `${JSON.stringify({ locale: FIRST, translations }, null, 2)}\n`);
  }
  const faults = readdirSync(LANGUAGES).flatMap((file) => faultsOf(file.replace('.json', ''), read(file), code));
  for (const fault of faults) console.log(fault);
  if (faults.length > 0)
    console.log('“npm run messages” writes the first language’s; the others are translated by hand.');
  process.exitCode = faults.length > 0 ? 1 : 0;
}
