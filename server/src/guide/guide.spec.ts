import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Hono } from 'hono';
import { guideRoutes } from './guide';

const DOCS = join(import.meta.dirname, '../../../docs');
const app = new Hono().route('/guide', guideRoutes(DOCS) as never);
const read = async (path: string): Promise<string> => (await app.request(path)).text();

describe('the guide', () => {
  it('has a section for every place that a first visit links to', async () => {
    const page = await read('/guide');
    const places = readFileSync(join(DOCS, '../web/src/app/parts/firstVisit.ts'), 'utf8').matchAll(
      /^ {2}(\w+): \$localize/gm,
    );
    const names = [...places].map(([, name]) => name);
    expect(names.length).toBeGreaterThan(5);
    for (const name of names) expect(page).toContain(`<a id="${name}">`);
  });

  it('leads from page to page, and no page is missing', async () => {
    const page = await read('/guide');
    const links = [...page.matchAll(/href="(\/guide\/[^"#]*)/g)].map(([, to]) => to!);
    expect(links).toContain('/guide/judging');
    for (const to of links) expect([to, (await app.request(to)).status]).toEqual([to, 200]);
  });

  it('serves nothing but the documentation', async () => {
    for (const path of ['/guide/..%2Fpackage', '/guide/architecture.json', '/guide/nothing'])
      expect((await app.request(path)).status).toBe(404);
  });
});
