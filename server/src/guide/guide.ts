import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Hono } from 'hono';
import type { SecureHeadersVariables } from 'hono/secure-headers';
import { marked } from 'marked';
import { answerProblem } from '../problems/problem';
import type { Env } from '../request/context';

/** Pages of the documentation that adults are led to; `guide` first. */
const PAGES = ['guide', 'judging', 'planning', 'safety', 'formats', 'model', 'benchmarks'];

const STYLE = `:root{color-scheme:light dark}body{font:17px/1.6 Andika,'Segoe UI',sans-serif;max-width:46rem;margin:0 auto;padding:16px 20px 64px;
background:light-dark(#faf6ee,#172026);color:light-dark(#22303c,#ece5d6)}a{color:light-dark(#1d6a72,#86c9cd)}h1,h2,h3{font-family:Literata,Georgia,serif;font-weight:400;line-height:1.2}
table{border-collapse:collapse;display:block;overflow-x:auto}td,th{border-bottom:1px solid light-dark(#d9c7a3,#4b5558);padding:4px 12px 4px 0;text-align:left;vertical-align:top}
pre{overflow-x:auto}img{max-width:100%}header{display:flex;align-items:center;gap:20px;padding:0 0 12px}header a{display:inline-flex;align-items:center;gap:8px;min-height:44px}
header a:first-child{margin-right:auto;font:26px Literata,Georgia,serif;text-decoration:none;color:inherit}@media print{header{display:none}}`;

/** Vane's own typefaces, where the built application has them. */
const FACES = [
  { family: 'Andika', weight: 400, file: /^andika-latin-400-normal-\w+\.woff2$/ },
  { family: 'Andika', weight: 700, file: /^andika-latin-700-normal-\w+\.woff2$/ },
  { family: 'Literata', weight: 400, file: /^literata-latin-400-normal-\w+\.woff2$/ },
];
function facesIn(webRoot: string | null): string {
  const media = join(webRoot ?? '', 'media');
  const files = webRoot !== null && existsSync(media) ? readdirSync(media) : [];
  return FACES.flatMap(({ family, weight, file }) =>
    files
      .filter((name) => file.test(name))
      .map(
        (name) =>
          `@font-face{font-family:${family};font-weight:${weight};font-display:swap;src:url(/media/${name}) format('woff2')}`,
      ),
  ).join('\n');
}

const HEADER = `<header><a href="/"><svg viewBox="0 0 32 32" width="30" height="30" aria-hidden="true"><path
d="M16 29V4M3 11h25M23 6l6 5-6 5M3 6v10M10 29h12" fill="none" stroke="currentColor" stroke-width="2.2" stroke-linejoin="round" stroke-linecap="round"/></svg> Vane</a>
<a href="/guide">Guide</a><a href="/">Back to Vane</a></header>`;

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** The documentation as pages: the files of `docs`, which ship with Vane, with nothing of anybody's record. */
export function guideRoutes(
  root: string,
  webRoot: string | null = null,
): Hono<Env & { Variables: SecureHeadersVariables }> {
  const style = STYLE + facesIn(webRoot);
  const page = async (name: string, nonce: string): Promise<string> => {
    const text = readFileSync(join(root, `${name}.md`), 'utf8');
    const title = /^# (.*)/.exec(text)?.[1] ?? 'Vane';
    const body = (await marked.parse(text))
      // Links between the files lead from page to page; pictures and other files are not served here.
      .replace(/href="([a-z-]+)\.md(#[^"]*)?"/g, (_, to: string, at = '') => `href="/guide/${to}${String(at)}"`);
    return `<!doctype html><html lang="en-GB"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)} · Vane</title><style nonce="${nonce}">${style}</style>${HEADER}<main>${body}</main></html>`;
  };
  return new Hono<Env & { Variables: SecureHeadersVariables }>()
    .get('/', async (c) => c.html(await page('guide', c.get('secureHeadersNonce') ?? '')))
    .get('/:name', async (c) => {
      const name = c.req.param('name').replace(/\.md$/, '');
      return PAGES.includes(name)
        ? c.html(await page(name, c.get('secureHeadersNonce') ?? ''))
        : answerProblem(c, 'not-found');
    });
}
