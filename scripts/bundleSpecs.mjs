import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, relative } from 'node:path';
import { packagesOutside } from './build.mjs';
import { ROOT } from './setup.mjs';
import { NAMED_GLOBALS } from './namedGlobals.mjs';

/**
 * Jest loads every module anew for every file of tests, and looks each up among all packages: of a file that tests a route in half a second, four seconds are that. For a whole run the files of a
 * package are bundled into a few, each in a `describe` of its own name, so that a report still names it. A file alone (`npm test -- WORDS`) is run as it is.
 */
export const BUNDLES = '.specs';

/** What is bundled: whose packages they are given, into how many files, and what each of them begins with. */
export const BUNDLED = {
  core: { from: ['core', 'contract'], into: 2 },
  server: { from: ['server'], into: 4 },
  // Angular's packages want its compiler before them.
  web: { from: ['web/src'], into: 2, first: ['@angular/compiler'], setUp: 'web/setup-jest.ts' },
};

/** What a file says of its own place stays true in a bundle. */
const placesKept = {
  name: 'places-kept',
  setup(build) {
    build.onLoad({ filter: /\.ts$/ }, ({ path }) => {
      if (path.includes('node_modules')) return undefined;
      const text = readFileSync(path, 'utf8');
      if (!text.includes('import.meta.')) return undefined;
      const place = { dirname: dirname(path), url: `file://${path}` };
      const kept = text.replace(/import\.meta\.(dirname|url)\b/g, (_, what) => JSON.stringify(place[what]));
      return { contents: kept, loader: 'ts' };
    });
  },
};

/** Angular's part of the page's files, as Jest has it done: templates come in, inputs are made known. */
async function angularKept() {
  const { default: preset } = await import('../web/jest.config.mjs');
  const [[made, given]] = Object.values(preset.transform);
  const settings = { ...given, tsconfig: join(ROOT, 'web/tsconfig.spec.json') };
  const transform = createRequire(import.meta.url)(made).default.createTransformer(settings);
  const [cwd, rootDir] = [join(ROOT, 'web'), join(ROOT, 'web')];
  const config = { cwd, rootDir, globals: {}, extensionsToTreatAsEsm: ['.ts'], testMatch: [], testRegex: [] };
  return {
    name: 'angular-kept',
    setup(build) {
      build.onLoad({ filter: /\/web\/(src|setup).*\.ts$/ }, ({ path }) => {
        const wish = { config, supportsStaticESM: true, transformerConfig: settings, cacheFS: new Map() };
        return { contents: transform.process(readFileSync(path, 'utf8'), path, wish).code, loader: 'js' };
      });
    },
  };
}

/**
 * Bundles the tests of a package into its folder `.specs`.
 * @param name one of BUNDLED
 * @param files its files of tests, relative to the checkout
 */
export async function bundleSpecs(name, files) {
  const { into, first = [], setUp } = BUNDLED[name];
  const out = join(ROOT, name, BUNDLES);
  rmSync(out, { recursive: true, force: true });
  // Jest wants the folders of all packages there, whichever is asked for.
  for (const one of Object.keys(BUNDLED)) mkdirSync(join(ROOT, one, BUNDLES), { recursive: true });
  const from = (file) => JSON.stringify(`./${relative(out, join(ROOT, file))}`);
  const entries = Array.from({ length: into }, (_, i) => {
    const entry = join(out, `${i + 1}.ts`);
    const described = files
      .filter((_, j) => j % into === i)
      // What one file leaves in the page's store is no matter of the next.
      .map(
        (file) =>
          `describe('${file}', () => { beforeAll(() => globalThis.localStorage?.clear()); require(${from(file)}); });`,
      );
    writeFileSync(entry, [...(setUp ? [`import ${from(setUp)};`] : []), ...described].join('\n'));
    return entry;
  });
  const esbuild = await import('esbuild');
  await esbuild.build({
    absWorkingDir: ROOT,
    entryPoints: entries,
    outdir: out,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: 'inline',
    sourcesContent: false,
    keepNames: true,
    logLevel: 'warning',
    banner: { js: [...first.map((one) => `import '${one}';`), NAMED_GLOBALS].join(' ') },
    loader: { '.html': 'text' },
    plugins: [placesKept, ...(name === 'web' ? [await angularKept()] : []), packagesOutside],
  });
  await esbuild.stop();
  for (const one of readdirSync(out)) if (one.endsWith('.ts')) rmSync(join(out, one));
}
