import { readFileSync } from 'node:fs';
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
pre{overflow-x:auto}img{max-width:100%}`;

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** The documentation as pages: the files of `docs`, which ship with Vane, with nothing of anybody's record. */
export function guideRoutes(root: string): Hono<Env & { Variables: SecureHeadersVariables }> {
  const page = async (name: string, nonce: string): Promise<string> => {
    const text = readFileSync(join(root, `${name}.md`), 'utf8');
    const title = /^# (.*)/.exec(text)?.[1] ?? 'Vane';
    const body = (await marked.parse(text))
      // Links between the files lead from page to page; pictures and other files are not served here.
      .replace(/href="([a-z-]+)\.md(#[^"]*)?"/g, (_, to: string, at = '') => `href="/guide/${to}${String(at)}"`);
    return `<!doctype html><html lang="en-GB"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)} · Vane</title><style nonce="${nonce}">${STYLE}</style><main>${body}</main></html>`;
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
