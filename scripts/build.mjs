import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { ROOT, Trouble } from './setup.mjs';

/** Builds the server's programs with esbuild and the browser application with Angular, each only when something it is made of has changed. */
const SERVER_OUT = join(ROOT, 'server/dist');
export const WEB_OUT = join(ROOT, 'web/dist');
/** More than any one file of the application has, bytes. */
const LARGEST_KEPT = 8_000_000;

function files(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory())
      return ['node_modules', 'dist', '.angular', '.specs'].includes(entry.name) ? [] : files(path);
    return [path];
  });
}

/** One hash over names, sizes and contents of what a build reads. */
function stampOf(folders) {
  const hash = createHash('sha256');
  for (const file of folders
    .flatMap((folder) =>
      statSync(join(ROOT, folder)).isDirectory() ? files(join(ROOT, folder)) : [join(ROOT, folder)],
    )
    .sort()) {
    // Neither is any part of what is built: tests, and what a type check leaves.
    if (/\.(spec\.ts|tsbuildinfo)$/.test(file)) continue;
    hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

function unchanged(out, stamp) {
  const file = join(out, '.built-from');
  return existsSync(file) && readFileSync(file, 'utf8') === stamp;
}

function remember(out, stamp) {
  mkdirSync(out, { recursive: true });
  writeFileSync(join(out, '.built-from'), stamp);
}

/** Packages stay outside: MikroORM's optional drivers cannot be bundled. Ours come in. */
export const packagesOutside = {
  name: 'packages-outside',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, (args) =>
      args.path.startsWith('@vane/') || args.kind === 'entry-point' ? undefined : { path: args.path, external: true },
    );
  },
};

export async function buildServer() {
  const stamp = stampOf(['core', 'contract', 'server', 'package-lock.json']);
  if (unchanged(SERVER_OUT, stamp)) return;
  const esbuild = await import('esbuild');
  await esbuild.build({
    absWorkingDir: ROOT,
    entryPoints: {
      main: 'server/src/main.ts',
      'pdf.worker': 'server/src/threads/pdf.worker.ts',
      'judge.worker': 'server/src/threads/judge.worker.ts',
      'roster.worker': 'server/src/files/roster.worker.ts',
      'archive.worker': 'server/src/files/archive.worker.ts',
      judge: 'server/src/commands/judge.ts',
      plan: 'server/src/commands/plan.ts',
      rehearse: 'server/src/commands/rehearse.ts',
      formats: 'server/src/commands/formats.ts',
      script: 'server/src/commands/script.ts',
      bench: 'server/src/commands/bench.ts',
      voice: 'server/src/commands/voice.ts',
      fuzz: 'server/src/testing/fuzz.ts',
      'reset-demo': 'server/src/commands/resetDemo.ts',
      school: 'server/src/commands/school.ts',
      'set-up': 'server/src/commands/setUpCode.ts',
      backup: 'server/src/commands/backup.ts',
      restore: 'server/src/commands/restore.ts',
    },
    outdir: 'server/dist',
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [packagesOutside],
  });
  // Its helper process would keep this one alive.
  await esbuild.stop();
  remember(SERVER_OUT, stamp);
}

export async function buildWeb() {
  const stamp = stampOf(['core', 'contract', 'web', 'package-lock.json']);
  if (unchanged(WEB_OUT, stamp)) return;
  console.error('Building the browser application …');
  const built = spawnSync(process.execPath, [join(ROOT, 'node_modules/@angular/cli/bin/ng.js'), 'build'], {
    cwd: join(ROOT, 'web'),
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
  });
  if (built.status !== 0) {
    const said = `${built.stdout}${built.stderr}`.trim().split('\n').slice(0, 40).join('\n');
    throw new Trouble(`The browser application could not be built:\n${said}`);
  }
  // The voice key's part in the browser's audio thread.
  await bundle('web/src/voice.worklet.ts', 'web/dist/voice.js');
  await buildOffline();
  remember(WEB_OUT, stamp);
}

/** A script of the browser's that stands beside the application's own, loaded by its name. */
async function bundle(from, to, define = {}) {
  const esbuild = await import('esbuild');
  await esbuild.build({
    absWorkingDir: ROOT,
    entryPoints: [from],
    outfile: to,
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    define,
    logLevel: 'warning',
  });
  await esbuild.stop();
}

/** The worker that keeps the application for use without a network; it is told which files there are. */
async function buildOffline() {
  const { getManifest } = await import('workbox-build');
  const { manifestEntries, warnings } = await getManifest({
    globDirectory: WEB_OUT,
    // A browser that has such workers has WOFF2.
    globPatterns: ['**/*.{js,css,svg,png,woff2,webmanifest}'],
    globIgnores: ['offline.js'],
    modifyURLPrefix: { '': '/' },
    // Built files carry a hash in their names.
    dontCacheBustURLsMatching: /-[A-Z0-9]{8}\.\w+$/,
    maximumFileSizeToCacheInBytes: LARGEST_KEPT,
  });
  if (warnings.length > 0) throw new Error(warnings.join('\n'));
  await bundle('web/src/offline.worker.ts', 'web/dist/offline.js', {
    FILES: JSON.stringify(manifestEntries),
    'process.env.NODE_ENV': '"production"',
  });
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  await buildServer();
  await buildWeb();
  console.log(`Built: ${fileURLToPath(pathToFileURL(SERVER_OUT))} and ${WEB_OUT}`);
}
