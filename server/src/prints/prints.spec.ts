import { Audit } from '../db/entities';
import type { GroupSheetView } from '@vane/contract';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { SITTING, rowFor } from '../testing/rows';
import { inFaces } from '../threads/pdf';

let harness: Harness;
let browser: Browser;
let folder: string;
let made: Awaited<ReturnType<typeof setUp>>;
beforeAll(async () => {
  harness = await startHarness();
  browser = harness.browser();
  made = await setUp(browser);
  folder = mkdtempSync(join(tmpdir(), 'vane-prints-'));
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await harness.close();
});

async function printed(wish: object): Promise<string> {
  const answer = await browser.send('POST', `${made.path}/prints`, wish);
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/pdf']);
  const file = join(folder, 'print.pdf');
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  return file;
}
const textOf = (file: string): string => execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
const pagesOf = (file: string): number =>
  Number(/^Pages:\s+(\d+)/m.exec(execFileSync('pdfinfo', [file], { encoding: 'utf8' }))?.[1]);

/** Separate dark marks on a page that are as large and as round as a counter: found in the picture that Debian's pdftoppm makes of it. */
function dotsOn(file: string, page: number): number {
  execFileSync('pdftoppm', [
    '-r',
    '60',
    '-gray',
    '-f',
    String(page),
    '-l',
    String(page),
    '-singlefile',
    file,
    join(folder, 'page'),
  ]);
  const image = readFileSync(join(folder, 'page.pgm'));
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(image.subarray(0, 40).toString('latin1'));
  if (!head) throw new Error('no picture was made');
  const [width, height] = [Number(head[1]), Number(head[2])];
  const pixels = image.subarray(head[0].length);
  const dark = (i: number): boolean => pixels[i]! < 140;
  const seen = new Uint8Array(width * height);
  let dots = 0;
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || !dark(start)) continue;
    const stack = [start];
    seen[start] = 1;
    const box = { left: width, right: 0, top: height, bottom: 0, size: 0 };
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      const [x, y] = [i % width, Math.floor(i / width)];
      box.left = Math.min(box.left, x);
      box.right = Math.max(box.right, x);
      box.top = Math.min(box.top, y);
      box.bottom = Math.max(box.bottom, y);
      box.size++;
      for (const near of [i - 1, i + 1, i - width, i + width]) {
        if (near < 0 || near >= seen.length || seen[near] || !dark(near)) continue;
        seen[near] = 1;
        stack.push(near);
      }
    }
    const [w, h] = [box.right - box.left + 1, box.bottom - box.top + 1];
    const full = box.size / (w * h);
    if (w >= 6 && Math.abs(w - h) <= 2 && full > 0.7 && full < 0.9) dots++;
  }
  return dots;
}

describe('printed cards', () => {
  it('hold as many dots as they are to show, and their numerals as letters on the backs, each behind its own front', async () => {
    const file = await printed({ what: 'flash-cards', layouts: ['frame-fives'], numbers: [3, 7, 10], size: 'middle' });
    expect(pagesOf(file)).toBe(2);
    expect(dotsOn(file, 1)).toBe(20);
    expect(dotsOn(file, 2)).toBe(0);
    // Turned over its long edge, the first line's left card has its back at the right.
    const back = execFileSync('pdftotext', ['-layout', '-f', '2', '-l', '2', file, '-'], { encoding: 'utf8' });
    expect(back).toMatch(/7\s+3\s+10/);
    const fonts = execFileSync('pdffonts', [file], { encoding: 'utf8' });
    expect(fonts).toMatch(/ABeeZee\S*\s+CID TrueType\s+Identity-H\s+yes yes yes/);
  });

  it('tell the two kinds apart without colour, and the key gives every answer', async () => {
    const file = await printed({ what: 'pair-cards', numbers: [5], ink: 'black', backs: false });
    // Only the first kind is solid: 0 + 1 + 2 + 3 + 4 + 5.
    expect(dotsOn(file, 1)).toBe(15);
    const key = textOf(await printed({ what: 'sentence-cards', numbers: [4], size: 'small' }));
    expect(key).toMatch(/3 \+ 1 = __\s+4/);
    expect(key).toContain('Answers');
    expect(key).toContain('Before you use this with children');
  });

  it('say what is missing when nothing can be printed, and refuse a thousand cards', async () => {
    const nothing = await browser.send('POST', `${made.path}/prints`, {
      what: 'flash-cards',
      layouts: ['five'],
      numbers: [9],
    });
    expect([nothing.status, ((await nothing.json()) as { code: string }).code]).toEqual([422, 'nothing-to-print']);
    await browser.send('PUT', `${made.path}/carpet`, {
      layout: 'five',
      exposureMs: 750,
      answerMode: 'tap',
      shows: 5,
      zeroToo: false,
      options: { gap: 'anywhere' },
    });
    const many = await browser.send('POST', `${made.path}/prints`, {
      what: 'sentence-cards',
      numbers: [5, 6, 7, 8, 9, 10],
    });
    expect([many.status, ((await many.json()) as { code: string }).code]).toEqual([422, 'too-many-cards']);
  });

  it('come as SVG too, one file a side, holding nothing but the drawing', async () => {
    const answer = await browser.send('POST', `${made.path}/cards.zip`, { what: 'dominoes', numbers: [3] });
    const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
    expect(Object.keys(files).sort()).toEqual([
      'domino-2-1-back.svg',
      'domino-2-1.svg',
      'domino-3-0-back.svg',
      'domino-3-0.svg',
    ]);
    const svg = Buffer.from(files['domino-2-1.svg']!).toString();
    expect(svg.match(/<circle/g)).toHaveLength(3);
    expect(svg).not.toMatch(/currentColor|script|href/);
  });
});

describe('sheets', () => {
  it('a mat bears the class’s words, and the caution about small things', async () => {
    await browser.send('PUT', `${made.path}/carpet`, {
      layout: 'five',
      exposureMs: 750,
      answerMode: 'tap',
      shows: 5,
      zeroToo: false,
      words: { whole: 'total', part: 'addend' },
    });
    const text = textOf(await printed({ what: 'mats', mat: 'part-whole', paper: 'Letter' }));
    expect(text.match(/addend/g)).toHaveLength(2);
    expect(text).toContain('total');
    expect(text).toContain('Small things can choke');
  });

  it('writing sheets have their answers on pages of their own', async () => {
    const file = await printed({ what: 'fill-and-write', numbers: [6], answers: true });
    expect(pagesOf(file)).toBe(2);
    expect(dotsOn(file, 1)).toBe(21);
    expect(textOf(file)).toContain('answers');
    const ways = textOf(await printed({ what: 'all-the-ways', numbers: [6], answers: false }));
    expect(ways).toContain('That makes 7 ways.');
  });
});

describe('papers about children', () => {
  it('the home sheet has the child’s own number, and neither a score nor another child', async () => {
    const text = textOf(await printed({ what: 'home-sheet', child: made.children.get('Odo') }));
    expect(text).toContain('Odo plays with 5');
    expect(text).not.toMatch(/Zadie|Ivo|knows|counts|%/);
    expect(text).toContain('choke');
  });

  it('the hand-over says how it was tested and what it cannot say', async () => {
    const odo = made.children.get('Odo') ?? '';
    await browser.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    await browser.send('POST', `${made.path}/children/${odo}/overrules`, {
      fact: '3+4',
      reading: 'knows',
      reason: 'told me how',
    });
    const text = textOf(await printed({ what: 'hand-over', child: odo })).replace(/\s+/g, ' ');
    expect(text).toContain('1 answer on 1 day');
    expect(text).toContain('told me how');
    expect(text).toContain('It is not a diagnosis');
    expect(text).not.toContain('Zadie');
  });

  it('a page for a parents’ evening has plain words, and neither times, scores nor another child', async () => {
    const odo = made.children.get('Odo') ?? '';
    await browser.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    const flat = async (wish: object): Promise<string> => textOf(await printed(wish)).replace(/\s+/g, ' ');
    const text = await flat({ what: 'evening', child: odo });
    expect(text).toContain('What helps at home');
    expect(text).toContain('Odo is learning');
    expect(text).not.toMatch(/Zadie|Ivo|per cent|%|\d s\b|of \d+ answers|probability/);
    // Nothing is told twice.
    const told = text.split(/(?<=\.) /).filter((one) => one.length > 20);
    expect(new Set(told).size).toBe(told.length);
    // The teacher's own words, once there are some.
    await browser.send('PUT', `${made.path}/children/${odo}`, { door: 'Odo found four all by himself.' });
    expect(await flat({ what: 'evening', child: odo })).toContain('Odo found four all by himself.');
  });

  it('a class hand-over names every child with the working number first; support is printed only where it is ticked', async () => {
    const odo = made.children.get('Odo') ?? '';
    const support = { supports: ['pointing'], words: 'number strip on the table' };
    await browser.send('PUT', `${made.path}/children/${odo}`, { support });
    const flat = async (wish: object): Promise<string> => textOf(await printed(wish)).replace(/\s+/g, ' ');
    const plain = await flat({ what: 'class-hand-over' });
    for (const name of made.children.keys()) expect(plain).toContain(name);
    expect(plain).toContain('The working number is');
    expect(plain).toContain('no order of children');
    for (const what of ['class-hand-over', 'hand-over', 'evening']) {
      expect([what, (await flat({ what, child: odo })).includes('number strip')]).toEqual([what, false]);
      expect([what, (await flat({ what, child: odo, support: true })).includes('number strip')]).toEqual([what, true]);
    }
    const prints = await harness.orm.em.fork().find(Audit, { what: 'exported' });
    expect(prints.map((one) => one.detail)).toContain('printed: class-hand-over, with support');
  });

  it('a group sheet has a place for every child and question, is kept by its code, and forgets an erased child', async () => {
    const [odo, ivo] = ['Odo', 'Ivo'].map((name) => made.children.get(name) ?? '');
    const answer = await browser.send('POST', `${made.path}/group-sheets`, {
      children: [odo, ivo],
      facts: ['3+4', 'show:7:frame-fives'],
    });
    const sheet = (await answer.json()) as GroupSheetView;
    const text = textOf(await printed({ what: 'group-sheet', sheet: sheet.code }));
    expect(text).toMatch(/Odo\s+Ivo/);
    expect(text).toMatch(/3 ?\+ ?4/);
    expect(text).toContain('7 on a frame by fives');
    expect((await browser.send('PUT', `${made.path}/group-sheets/${sheet.code}/keyed`, {})).status).toBe(204);
    expect((await browser.send('POST', `${made.path}/group-sheets`, { children: [odo], facts: ['3+14'] })).status).toBe(
      400,
    );
    await browser.send('DELETE', `${made.path}/children/${ivo}`, {});
    const [kept] = (await (await browser.get(`${made.path}/group-sheets`)).json()) as GroupSheetView[];
    expect(kept).toMatchObject({ code: sheet.code, children: [odo] });
    expect(kept?.keyedAt).not.toBeNull();
  });

  it('carpet time lies on one page for four children with eight questions each, on either paper', async () => {
    await browser.send('POST', `${made.path}/children`, { nicknames: ['Bartholomew', 'Wilhelmina'] });
    const view = (await (await browser.get(made.path)).json()) as { children: { id: string }[] };
    const children = view.children.map(({ id }) => id).slice(0, 4);
    expect(children).toHaveLength(4);
    const facts = ['show:9:frame-fives', '9-4', '?+4=9', 'bond:9:4', '4+5', '5+?=10', 'show:4:five', '3+6'];
    const asked = Object.fromEntries(
      children.map((id) => [id, facts.map((fact, i) => ({ fact, form: i % 2 ? 'remembered' : 'picture' }))]),
    );
    const session = { needs: [{ need: 'pairs', whole: 9 }], opener: 'flash-and-build', minutes: 7, asked };
    const answer = await browser.send('POST', `${made.path}/group-sheets`, { children, facts, session });
    const { code } = (await answer.json()) as GroupSheetView;
    for (const paper of ['A4', 'Letter']) {
      const file = await printed({ what: 'group-sheet', sheet: code, paper });
      expect([paper, pagesOf(file)]).toEqual([paper, 1]);
      expect(textOf(file)).toContain('Pairs of nine');
    }
  });

  it('names in other letters find a face that has them', () => {
    expect(inFaces('Łucja and Оля').map((run) => run.font)).toEqual(['AndikaExt', 'ABeeZee', 'AndikaCyrillic']);
    expect(inFaces('Thuỷ, Ерғали').map((run) => run.font)).toEqual([
      'ABeeZee',
      'AndikaVietnamese',
      'ABeeZee',
      'AndikaCyrillic',
      'AndikaCyrillicExt',
      'AndikaCyrillic',
    ]);
    // In two marks or in one.
    expect(inFaces('Zoe\u0308')).toEqual([{ text: 'Zoë', font: 'ABeeZee' }]);
  });

  it('a name in letters that no face has leaves a line to write it on', () => {
    expect(inFaces('for 明 and Ivo')).toEqual([{ text: 'for __ and Ivo', font: 'ABeeZee' }]);
  });
});
