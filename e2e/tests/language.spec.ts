import type { Page } from '@playwright/test';
import type { GroupSheetView, HelperLink } from '@vane/contract';
import { HARBOUR_CHILDREN, WORD_CHOICES } from '@vane/core';
import { nextShow, beginSitting, classOf, expect, onStage, recordOf, stage, test, settled } from '../vane';

/** Names, and words that the class has chosen for itself. */
const OWN = [
  ...HARBOUR_CHILDREN,
  ...Object.values(WORD_CHOICES).flat(),
  'Harbour keeper',
  'Saltmarsh Infants',
  'Curlew',
  'Sandpiper',
  'Europe/London',
  // A paper's name, like A4.
  'Letter',
];

/**
 * What is wrong with the words that are in view: cut off by what holds them, lying over one another, or plain English in another language.
 * A list that scrolls by itself cuts nothing; what is for screen readers alone takes no room.
 */
const faults = (page: Page): Promise<string[]> =>
  page.evaluate((names: readonly string[]) => {
    const found: string[] = [];
    const { scrollWidth, clientWidth } = document.documentElement;
    if (scrollWidth > clientWidth) {
      const wide = [...document.querySelectorAll('body *')].filter(
        (e) => e.getBoundingClientRect().right > clientWidth + 1,
      );
      found.push(`the page scrolls sideways for ${wide.map((e) => `${e.tagName}.${e.className}`).join(', ')}`);
    }
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    const pieces: { text: string; rect: DOMRect; element: Element }[] = [];
    while (walker.nextNode()) {
      const text = walker.currentNode.textContent?.trim() ?? '';
      const element = walker.currentNode.parentElement;
      if (text === '' || !element || element.closest('.aloud, .cdk-visually-hidden, script, style, noscript, svg'))
        continue;
      if (!element.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true })) continue;
      const range = document.createRange();
      range.selectNodeContents(walker.currentNode);
      // Names that people gave, addresses, dates of the browser's and units are the same in every language.
      if (
        /[a-z]{3,}/.test(text) &&
        !/[·áçéîñöšûý]/i.test(text) &&
        !names.some((one) => text.includes(one)) &&
        !/\d/.test(text)
      )
        found.push(`not translated: ${text}`);
      // What lies outside a list that scrolls is out of view; what lies outside anything else is cut.
      const own = range.getBoundingClientRect();
      let inView = true;
      // Lines that a box of a set height does not show lie over nothing.
      let [top, bottom] = [-Infinity, Infinity];
      for (let box: Element | null = element; box; box = box.parentElement) {
        const { overflowX, overflowY, display } = getComputedStyle(box);
        if (display === 'inline' || `${overflowX} ${overflowY}` === 'visible visible') continue;
        const outer = box.getBoundingClientRect();
        if (/auto|scroll/.test(`${overflowX} ${overflowY}`))
          inView &&= own.top >= outer.top - 1 && own.bottom <= outer.bottom + 1;
        else {
          if (overflowY === 'hidden') [top, bottom] = [Math.max(top, outer.top), Math.min(bottom, outer.bottom)];
          if (own.right > outer.right + 1 || own.left < outer.left - 1) found.push(`cut: ${text}`);
        }
      }
      const shown = [...range.getClientRects()].filter(
        ({ y, height }) => y + height / 2 > top && y + height / 2 < bottom,
      );
      if (inView) for (const rect of shown) pieces.push({ text, rect, element });
    }
    // Letters of large headings reach beyond their line.
    const covers = (a: DOMRect, b: DOMRect): boolean =>
      Math.min(a.right, b.right) - Math.max(a.left, b.left) > 3 &&
      Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 0.45 * Math.min(a.height, b.height);
    // What lies over the page on purpose is fixed to the window.
    const fixed = (element: Element): boolean =>
      getComputedStyle(element).position === 'fixed' ||
      (element.parentElement !== null && fixed(element.parentElement));
    for (const [i, a] of pieces.entries())
      for (const b of pieces.slice(i + 1))
        if (covers(a.rect, b.rect) && fixed(a.element) === fixed(b.element))
          found.push(`over one another: ${a.text} | ${b.text}`);
    return found;
  }, OWN);

/** A helper's link to one question of a child. */
async function helperLink(page: Page): Promise<string> {
  const { id, children } = await classOf(page);
  const [child] = children;
  const ask = { fact: 'show:4:five', form: 'symbols' };
  const session = { needs: [{ need: 'begin' }], opener: 'flash-and-say', minutes: 2, asked: { [child!.id]: [ask] } };
  const made = await page.request.post(`/api/classes/${id}/group-sheets`, {
    data: { children: [child!.id], facts: [ask.fact], session },
  });
  const { code } = (await made.json()) as GroupSheetView;
  const opened = await page.request.post(`/api/classes/${id}/group-sheets/${code}/link`, { data: {} });
  return ((await opened.json()) as HelperLink).link;
}

test('in a language a third longer every view fits, and nothing is left in English @long @both', async ({
  signedIn: page,
}) => {
  test.setTimeout(300_000);
  const { child } = await recordOf(page, 'Oriel');
  const fits = async (view: string): Promise<void> => {
    expect.soft((await faults(page)).map((fault) => `${view}: ${fault}`)).toEqual([]);
  };
  await page.goto('/today?lang=en-XA');
  await expect(page.locator('html')).toHaveAttribute('lang', 'en-XA');
  for (const path of [
    '/today',
    '/week',
    '/carpet',
    '/children',
    `/children/${child.id}?see=add`,
    '/class',
    '/log',
    '/school',
    '/account',
    '/before-use',
    '/files',
    '/prints',
    '/prints?what=group-sheet',
    '/rehearse',
  ]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await settled(page);
    await fits(path);
  }
  await page.getByRole('button', { name: /^Šéttîñgš/ }).click();
  await expect(page.getByRole('button', { name: /^Šîgñ öût/ })).toBeVisible();
  await fits('settings');
  await page.goto(await helperLink(page));
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await fits('helper, before');
  await page.getByRole('button', { name: /^Bég/ }).click();
  await expect(page.getByRole('radiogroup')).toBeVisible();
  await fits('helper, asking');
  await page.getByRole('button', { name: /^Ñöt/ }).click();
  await fits('helper, afterwards');
  await page.context().clearCookies();
  await page.goto('/sign-in');
  await expect(page.getByRole('button', { name: /^Îñ|^Šîgñ îñ/ })).toBeVisible();
  await fits('sign-in');
});

test('the server prints and refuses in the language of the page', async ({ signedIn: page }) => {
  const asked = { headers: { 'accept-language': 'en-XA' } };
  const refused = await page.request.get('/api/no-such-thing', asked);
  expect(((await refused.json()) as { title: string }).title).toMatch(/^Thért|^Théré îš ñöthîñg héré/);
  const plain = await page.request.get('/api/no-such-thing');
  expect(((await plain.json()) as { title: string }).title).toBe('There is nothing here');
});

test('a session runs in the other language, its words and its marks @long', async ({ signedIn: page }) => {
  await beginSitting(page, { child: 'Oriel', warmUp: false, shows: 5 });
  await page.evaluate(() => localStorage.setItem('vane-language', 'en-XA'));
  await page.goto('/carpet');
  await page.getByRole('button', { name: /^Bégîñ wîth/ }).click();
  await nextShow(page);
  await page.locator(`[data-number='${await onStage(page)}']`).click();
  await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  expect(await faults(page)).toEqual([]);
});
